<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useUnits } from '../../state/useUnits'
import { luxText } from './frame'

/** Lux along a line through each wall's brightest mark, across and down, all on one scale. */
const props = defineProps<{ walls: Schemas['WallView'][]; most: number; cutoff: number | null }>()
const units = useUnits()
const WIDTH = 560
const HEIGHT = 190
const LEFT = 46
const FOOT = 158
const RIGHT = 26
const SIDES = {
  before: { line: 'var(--filament-line)', dash: '7 5' },
  after: { line: 'var(--led-line)', dash: undefined },
}
const y = computed(() => scaleLinear([0, props.most], [FOOT, 12]).nice(4))
function cutOf(wall: Schemas['WallView'], way: 'across' | 'down'): [number, number][] {
  const { peak_row, peak_column } = wall.figures!
  return way === 'across' ? wall.xs.map((x, i) => [x, wall.lux[peak_row][i]]) : wall.ys.map((v, j) => [v, wall.lux[j][peak_column]])
}
const charts = computed(() =>
  (['across', 'down'] as const).map((way) => {
    const cuts = props.walls.map((w) => ({ side: w.side, points: cutOf(w, way) }))
    const places = cuts.flatMap((c) => c.points.map((p) => p[0]))
    const x = scaleLinear([Math.min(...places), Math.max(...places)], way === 'across' ? [LEFT, WIDTH - RIGHT] : [WIDTH - RIGHT, LEFT])
    const path = line<[number, number]>(
      (p) => x(p[0]),
      (p) => y.value(p[1]),
    )
    return { way, x, ticks: x.ticks(6), lines: cuts.map((c) => ({ side: c.side, d: path(c.points) ?? '' })) }
  }),
)
/** One unit along the whole axis. */
const inches = computed(() => (units.units === 'us' ? units.shown('m', true) : undefined))
const unit = computed(() => inches.value?.unit ?? 'm')
function metres(value: number) {
  const shown = inches.value?.show(value) ?? value
  return `${shown > 0 ? '+' : shown < 0 ? '−' : ''}${Math.abs(shown).toFixed(inches.value ? 0 : 1)}`
}
</script>

<template>
  <div class="grid gap-4 min-[1000px]:grid-cols-2">
    <figure v-for="c in charts" :key="c.way" :data-testid="`cut-${c.way}`">
      <figcaption class="text-sm text-dim">
        {{ c.way === 'across' ? 'Across, through the brightest mark' : 'From top to bottom, through the brightest mark' }}; lux,
        {{ unit }} from the axis
      </figcaption>
      <svg :viewBox="`0 0 ${WIDTH} ${HEIGHT}`" class="block w-full" role="img" :aria-label="`Lux ${c.way}, before and after`">
        <g v-for="t in y.ticks(4)" :key="t">
          <path :d="`M${LEFT} ${y(t)}H${WIDTH - RIGHT}`" stroke="var(--line)" />
          <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" font-size="15" class="num" fill="var(--dim)">{{ luxText(t) }}</text>
        </g>
        <text v-for="t in c.ticks" :key="t" :x="c.x(t)" :y="FOOT + 20" text-anchor="middle" font-size="15" class="num" fill="var(--dim)">
          {{ metres(t) }}
        </text>
        <path
          v-if="c.way === 'down' && cutoff !== null"
          :d="`M${c.x(cutoff)} 8V${FOOT}`"
          stroke="var(--brick)"
          stroke-width="2.5"
          stroke-dasharray="10 5"
        />
        <path
          v-for="l in c.lines"
          :key="l.side"
          :d="l.d"
          fill="none"
          stroke-width="3"
          :stroke="SIDES[l.side].line"
          :stroke-dasharray="SIDES[l.side].dash"
        />
      </svg>
    </figure>
  </div>
</template>
