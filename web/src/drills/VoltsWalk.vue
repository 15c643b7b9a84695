<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, useTemplateRef } from 'vue'
import type { Schemas } from '../api/client'
import { plain } from '../ui/format'

/** Volts along the way of the current, point by point, as they really were and as they should have been: where they fall, it is. */
const props = defineProps<{ way: Schemas['DrillWay'] }>()
const ROW = 40
const TOP = 8
const LEFT = 264
const RIGHT = 60
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const narrow = computed(() => width.value < 520)
const left = computed(() => (narrow.value ? 8 : LEFT))
const row = computed(() => (narrow.value ? ROW + 18 : ROW))
const most = computed(() => Math.max(1, ...props.way.points.flatMap((p) => [p.volts ?? 0, p.sound ?? 0])))
const x = computed(() => scaleLinear([0, most.value], [left.value, Math.max(width.value - RIGHT, left.value + 20)]))
const y = (i: number) => TOP + i * row.value + row.value - ROW / 2
const line = (of: 'volts' | 'sound') =>
  props.way.points.map((p, i) => `${i ? 'L' : 'M'}${x.value(Math.max(p[of] ?? 0, 0))} ${y(i)}`).join('')
const said = computed(() =>
  props.way.points.map((p) => `${p.name} ${plain(p.volts ?? 0, 2)} V, should be ${plain(p.sound ?? 0, 2)}`).join('; '),
)
</script>

<template>
  <figure ref="box" class="min-w-0">
    <svg v-if="width" :width="width" :height="TOP + way.points.length * row + 8" role="img" :aria-label="said">
      <path :d="line('sound')" fill="none" stroke="var(--edge)" stroke-width="2" stroke-dasharray="3 5" />
      <path :d="line('volts')" fill="none" stroke="var(--led-line)" stroke-width="4" stroke-linejoin="round" />
      <g v-for="(p, i) in way.points" :key="p.name">
        <text
          :x="narrow ? left : left - 12"
          :y="narrow ? y(i) - 18 : y(i) + 5"
          :text-anchor="narrow ? 'start' : 'end'"
          font-size="15"
          fill="var(--ink)"
        >
          {{ p.name }}
        </text>
        <circle :cx="x(Math.max(p.sound ?? 0, 0))" :cy="y(i)" r="4" fill="var(--leaf)" stroke="var(--edge)" stroke-width="2" />
        <circle :cx="x(Math.max(p.volts ?? 0, 0))" :cy="y(i)" r="6" fill="var(--led-line)" />
        <text :x="x(Math.max(p.volts ?? 0, 0)) + 12" :y="y(i) + 5" font-size="15" font-weight="700" fill="var(--ink)" class="num">
          {{ plain(p.volts ?? 0, 1) }}
        </text>
      </g>
    </svg>
  </figure>
</template>
