<script setup lang="ts">
import { scaleLinear, scaleUtc } from 'd3-scale'
import { useElementSize } from '@vueuse/core'
import { computed, useTemplateRef } from 'vue'
import { plain } from '../ui/format'

/** Figures read over time, each with its doubt; touched, a point opens the job behind it. */
interface Row {
  on: string
  value: number | null
  sigma: number | null
  job: string | null
  name: string | null
}
const props = defineProps<{
  rows: Row[]
  unit: string
  label: string
  trend: { slope: number; drifts: boolean } | null
  line?: number | null
}>()
const emit = defineEmits<{ open: [job: string] }>()
const HEIGHT = 150
const LEFT = 52
const RIGHT = 16
const TOP = 12
const FOOT = HEIGHT - 28
const DAY = 86_400_000
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const points = computed(() =>
  props.rows
    .filter((r): r is Row & { value: number } => r.value !== null && /^\d{4}-/.test(r.on))
    .map((r) => ({ ...r, at: new Date(r.on) })),
)
const x = computed(() => {
  const days = points.value.map((p) => p.at.getTime())
  const [from, to] = [Math.min(...days), Math.max(...days)]
  const room = Math.max((to - from) * 0.06, 20 * DAY)
  return scaleUtc([new Date(from - room), new Date(to + room)], [LEFT, Math.max(width.value - RIGHT, LEFT + 20)])
})
const y = computed(() => {
  const ends = points.value.flatMap((p) => [p.value - (p.sigma ?? 0), p.value + (p.sigma ?? 0)])
  if (props.line !== null && props.line !== undefined) ends.push(props.line)
  const [low, high] = [Math.min(...ends), Math.max(...ends)]
  const room = Math.max((high - low) * 0.15, Math.abs(high) * 0.02, 0.01)
  return scaleLinear([low - room, high + room], [FOOT, TOP]).nice(4)
})
const ticks = computed(() => x.value.ticks(Math.max(2, Math.floor(width.value / 130))))
/** The line through them, as the server found it, drawn through their middle. */
const fit = computed(() => {
  if (!props.trend || points.value.length < 3) return ''
  const middle = (values: number[]) => values.reduce((a, b) => a + b, 0) / values.length
  const [mx, my] = [middle(points.value.map((p) => p.at.getTime())), middle(points.value.map((p) => p.value))]
  const at = (t: number) => my + (props.trend!.slope * (t - mx)) / (365.25 * DAY)
  const [a, b] = x.value.domain().map((d) => d.getTime())
  return `M${x.value(a)} ${y.value(at(a))}L${x.value(b)} ${y.value(at(b))}`
})
/** A draw with the key off is thousandths. */
const small = computed(() => Math.max(...points.value.map((p) => Math.abs(p.value))) < 0.1)
const digits = computed(() => (props.unit === 'A' ? (small.value ? 3 : 2) : props.unit === 'V' ? 2 : 0))
const said = (p: Row) =>
  `${p.on}: ${plain(p.value!, digits.value)}${p.sigma ? ` ± ${plain(p.sigma, digits.value)}` : ''} ${props.unit}, ${p.name ?? ''}`
</script>

<template>
  <figure ref="box" class="min-w-0">
    <svg v-if="points.length && width" :width="width" :height="HEIGHT" role="group" :aria-label="`${label}, over time`">
      <g v-for="t in y.ticks(4)" :key="t" aria-hidden="true">
        <path :d="`M${LEFT} ${y(t)}H${width - RIGHT}`" stroke="var(--line)" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" font-size="14" fill="var(--dim)" class="num">{{ plain(t, digits) }}</text>
      </g>
      <text
        v-for="t in ticks"
        :key="t.getTime()"
        :x="x(t)"
        :y="FOOT + 20"
        text-anchor="middle"
        font-size="14"
        fill="var(--dim)"
        class="num"
        aria-hidden="true"
      >
        {{ t.toISOString().slice(0, 7) }}
      </text>
      <path
        v-if="line !== null && line !== undefined"
        :d="`M${LEFT} ${y(line)}H${width - RIGHT}`"
        stroke="var(--brass)"
        stroke-width="2"
        stroke-dasharray="2 5"
      />
      <path
        v-if="fit"
        :d="fit"
        fill="none"
        :stroke="trend!.drifts ? 'var(--brick)' : 'var(--dim)'"
        stroke-width="2"
        stroke-dasharray="8 4"
      />
      <a
        v-for="(p, i) in points"
        :key="i"
        role="button"
        tabindex="0"
        class="cursor-pointer"
        :aria-label="said(p)"
        @click="p.job && emit('open', p.job)"
        @keydown.enter.prevent="p.job && emit('open', p.job)"
      >
        <title>{{ said(p) }}</title>
        <path v-if="p.sigma" :d="`M${x(p.at)} ${y(p.value - p.sigma)}V${y(p.value + p.sigma)}`" stroke="var(--led-line)" stroke-width="2" />
        <circle :cx="x(p.at)" :cy="y(p.value)" r="18" fill="transparent" />
        <circle :cx="x(p.at)" :cy="y(p.value)" r="5" fill="var(--leaf)" stroke="var(--led-line)" stroke-width="2.5" />
      </a>
    </svg>
  </figure>
</template>
