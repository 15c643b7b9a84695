<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../api/client'
import { money, plain } from '../ui/format'

/** Everything done, the latest first, with what it told and took. */
const props = defineProps<{ play: Schemas['DrillPlay'] }>()
const latest = computed(() => [...props.play.entries].reverse())
</script>

<template>
  <ol class="border-t border-line" data-testid="done">
    <li v-for="e in latest" :key="e.n" class="border-b border-line py-1.5">
      <p class="flex items-baseline gap-2">
        <span class="num w-7 shrink-0 text-right text-dim">{{ e.n }}</span>
        <span class="min-w-0 flex-1">{{ e.words }}</span>
        <span class="num shrink-0 text-sm text-dim"
          >{{ plain(e.minutes, 1) }} min<template v-if="e.cents"> · {{ money(e.cents) }}</template></span
        >
      </p>
      <p v-if="e.value !== null" class="num pl-9 text-lg font-bold">
        {{ plain(e.value, e.unit === 'V' || e.unit === 'A' ? 2 : 1) }} {{ e.unit }}
      </p>
      <p
        v-for="line in e.lines"
        :key="line"
        class="pl-9 font-semibold"
        :class="e.well === false ? 'text-brick' : e.well ? 'text-moss' : ''"
      >
        {{ line }}
      </p>
      <p v-if="e.opened.length" class="pl-9 text-sm text-dim">First: {{ e.opened.join(', ') }}.</p>
    </li>
    <li v-if="latest.length === 0" class="py-2 text-dim">
      Nothing yet. Each look, each reading, each mending takes its time, as at a machine.
    </li>
  </ol>
</template>
