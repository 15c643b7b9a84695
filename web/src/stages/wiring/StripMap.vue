<script setup lang="ts">
import type { Schemas } from '../../api/client'

/** The machine front to rear, every wire a lane: what is cut, and where it is laid. */
const props = defineProps<{ strip: Schemas['WiringStrip']; picked: string | null; zoom: number }>()
const emit = defineEmits<{ pick: [load: string] }>()
const LETTERS = '"Atkinson Hyperlegible Mono Variable", monospace'
</script>

<template>
  <div class="overflow-x-auto border border-line bg-leaf print:overflow-visible" data-testid="strip" tabindex="-1">
    <svg
      :viewBox="`0 0 ${strip.width} ${strip.height}`"
      :style="{ width: `${strip.width * zoom}px`, maxWidth: 'none' }"
      class="block print:!w-full"
      role="group"
      aria-label="Strip map"
      :font-family="LETTERS"
    >
      <path v-for="s in strip.stops" :key="s.key" :d="`M${s.x} 60V${props.strip.height - 8}`" stroke="var(--line)" stroke-dasharray="3 5" />
      <g
        v-for="(l, i) in strip.lanes"
        :key="i"
        class="cursor-pointer"
        role="button"
        tabindex="0"
        :aria-label="strip.texts.filter((t) => t.role === 'wire')[i]?.lines.join(' ')"
        @click="emit('pick', l.wire[0])"
        @keydown.enter="emit('pick', l.wire[0])"
      >
        <rect x="0" :y="l.y - 17" :width="strip.width" height="34" :fill="picked === l.wire[0] ? 'var(--shade)' : 'transparent'" />
        <path :d="`M${l.from} ${l.y}H${l.to}`" :stroke="l.paint[0] ?? 'var(--ink)'" :stroke-width="l.paint.length ? 6 : 3.5" />
        <path v-if="l.paint[1]" :d="`M${l.from} ${l.y}H${l.to}`" :stroke="l.paint[1]" stroke-width="2" />
        <circle v-for="x in [l.from, l.to]" :key="x" :cx="x" :cy="l.y" r="6" fill="var(--ink)" />
      </g>
      <text
        v-for="(t, i) in strip.texts"
        :key="`t${i}`"
        :x="t.x"
        :y="t.y"
        :font-size="t.size"
        :font-weight="t.bold ? 700 : 400"
        fill="var(--ink)"
        class="pointer-events-none"
        data-words
      >
        <tspan v-for="(l, j) in t.lines" :key="j" :x="t.x" :dy="j === 0 ? 0 : t.line">{{ l }}</tspan>
      </text>
    </svg>
  </div>
</template>
