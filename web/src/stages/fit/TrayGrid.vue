<script setup lang="ts">
import type { Cell } from './useCard'

/** The tray as it lies on the bench: a place for each fastener, in the order they came out. */
defineProps<{ cells: readonly Cell[]; wide?: number; marked?: readonly string[] }>()
defineEmits<{ pick: [cell: Cell] }>()
</script>

<template>
  <ul class="grid gap-2" :style="{ gridTemplateColumns: `repeat(${wide ?? 2}, minmax(0, 1fr))` }" data-testid="tray">
    <li v-for="c in cells" :key="c.id">
      <button
        type="button"
        class="flex h-full min-h-24 w-full flex-col border-2 bg-leaf p-2 text-left"
        :class="[c.lost || c.over ? 'border-brick' : marked?.includes(c.id) ? 'border-brass' : 'border-edge', c.out ? '' : 'border-dashed']"
        :data-place="c.place"
        @click="$emit('pick', c)"
      >
        <span class="flex w-full items-baseline justify-between gap-2">
          <b class="num">{{ c.place }}</b>
          <span class="text-xl">×{{ c.count }}</span>
        </span>
        <span class="leading-snug font-semibold">{{ c.name || 'what it is, not entered' }}</span>
        <span class="leading-snug text-dim">{{ [c.from, ...c.beside].filter(Boolean).join(', ') }}</span>
        <span v-if="c.lost" class="mt-auto font-bold text-brick">{{ c.lost }} missing</span>
        <span v-if="c.over" class="mt-auto font-bold text-brick">{{ c.back - c.count }} too many</span>
        <span v-if="c.out && c.back" class="mt-auto" :class="c.left ? '' : 'text-moss'">{{
          c.left ? `${c.back} back, ${c.left} here` : 'all back'
        }}</span>
      </button>
    </li>
  </ul>
</template>
