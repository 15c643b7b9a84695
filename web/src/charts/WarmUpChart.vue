<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import { plain } from '../ui/format'
import EmptyBox from '../ui/EmptyBox.vue'
import { useFrame } from './useFrame'

const props = defineProps<{ samples: { t_s?: number; amps?: number }[]; settled: number | null; mean: number | null; live?: boolean }>()
const HEIGHT = 170
const LEFT = 52
const RIGHT = 90
const TOP = 12
const BOTTOM = 28
const points = computed(() =>
  props.samples
    .filter((s): s is { t_s: number; amps: number } => s.t_s !== undefined && s.amps !== undefined)
    .sort((a, b) => a.t_s - b.t_s),
)
const all = computed(() => [...points.value.map((p) => p.amps), ...(props.settled === null ? [] : [props.settled])])
const { width, x, foot } = useFrame(
  { height: HEIGHT, left: LEFT, right: RIGHT, top: TOP, bottom: BOTTOM },
  computed(() => Math.max(props.live ? 10 : 60, ...points.value.map((p) => p.t_s))),
)
const y = computed(() => scaleLinear([Math.min(...all.value) * 0.98, Math.max(...all.value) * 1.01], [foot, TOP]).nice(4))
const path = computed(
  () =>
    line<{ t_s: number; amps: number }>(
      (p) => x.value(p.t_s),
      (p) => y.value(p.amps),
    )(points.value) ?? '',
)
</script>

<template>
  <figure ref="box" class="min-w-0">
    <figcaption class="mb-1 font-semibold text-dim">Warm-up, amps over seconds</figcaption>
    <EmptyBox v-if="points.length < 2">The curve shows from the second sample on.</EmptyBox>
    <svg v-else :width="width" :height="HEIGHT" role="img" :aria-label="`Warm-up curve of ${points.length} samples`">
      <g v-for="t in y.ticks(4)" :key="t">
        <path :d="`M${LEFT} ${y(t)}H${width - RIGHT}`" stroke="var(--line)" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" font-size="14" fill="var(--dim)" class="num">{{ plain(t, 2) }}</text>
      </g>
      <text v-for="t in x.ticks(5)" :key="t" :x="x(t)" :y="foot + 19" text-anchor="middle" font-size="14" fill="var(--dim)" class="num">
        {{ t }}
      </text>
      <template v-if="settled !== null">
        <path :d="`M${LEFT} ${y(settled)}H${width - RIGHT}`" stroke="var(--moss)" stroke-width="2.5" stroke-dasharray="8 4" />
        <text :x="width - RIGHT + 6" :y="y(settled) + 5" font-size="14" fill="var(--moss)">settles {{ plain(settled, 2) }}</text>
      </template>
      <path :d="path" fill="none" stroke="var(--led-line)" stroke-width="2.5" />
      <circle
        v-for="(p, i) in live ? points.slice(-1) : points"
        :key="i"
        :cx="x(p.t_s)"
        :cy="y(p.amps)"
        r="5"
        fill="var(--leaf)"
        stroke="var(--led-line)"
        stroke-width="2.5"
      />
    </svg>
  </figure>
</template>
