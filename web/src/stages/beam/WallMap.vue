<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { frameOf, luxText, WIDTH } from './frame'
import LevelFigures from './LevelFigures.vue'

/** The wall with its lines of equal light; maps side by side share their levels. */
const props = defineProps<{
  wall: Schemas['WallView']
  /** The mark in hand, r2c5. */
  mark?: string | null
  /** Lines of another wall laid over it, dashed. */
  over?: Schemas['WallContour'][]
  floor?: number | null
  /** Whether a mark can be taken in hand: by touch, or by arrow keys. */
  pickable?: boolean
}>()
const emit = defineEmits<{ pick: [cell: string] }>()
const frame = computed(() => frameOf(props.wall))
const cut = computed(() => (typeof props.wall.line_m === 'number' ? frame.value.y(props.wall.line_m) : null))
const ground = computed(() => (props.floor === null || props.floor === undefined ? null : frame.value.y(props.floor)))
const across = computed(() => WIDTH / (props.wall.xs.length - 1))
/** Rows from the top: where they lie, and from where to where a touch means them. */
const lines = computed(() => {
  const at = props.wall.ys.map(frame.value.y)
  const between = (j: number) => (at[j] + at[j + 1]) / 2
  return at.map((y, j) => ({
    y,
    top: j ? between(j - 1) : -between(0),
    bottom: j + 1 < at.length ? between(j) : 2 * y - between(j - 1),
    number: props.wall.row_numbers[j],
  }))
})
/** Beyond so many the marks would hide the light. */
const dotted = computed(() => props.wall.xs.length <= 21)
const PAD = 12
const STEPS: Record<string, [number, number]> = { ArrowUp: [-1, 0], ArrowDown: [1, 0], ArrowLeft: [0, -1], ArrowRight: [0, 1] }
/** Arrow keys carry the mark in hand. */
function step(event: KeyboardEvent) {
  const by = STEPS[event.key]
  if (!by || event.ctrlKey || event.metaKey || event.altKey) return
  event.preventDefault()
  const [row, column] = (props.mark ?? 'r0c0').slice(1).split('c').map(Number)
  const within = (value: number, most: number) => Math.min(Math.max(value, 0), most)
  const place = Math.max(
    lines.value.findIndex((l) => l.number === row),
    0,
  )
  emit('pick', `r${lines.value[within(place + by[0], lines.value.length - 1)].number}c${within(column + by[1], props.wall.xs.length - 1)}`)
}
</script>

<template>
  <svg
    :viewBox="`${-PAD} ${-PAD} ${WIDTH + 2 * PAD} ${frame.height + 2 * PAD}`"
    class="block w-full border border-line bg-leaf"
    role="img"
    :tabindex="pickable ? 0 : undefined"
    :aria-label="`${wall.beam} beam on the wall, ${wall.side}: lines of equal light`"
    @keydown="pickable && step($event)"
  >
    <path
      v-for="c in wall.contours"
      :key="c.level"
      :d="frame.path(c.rings)"
      fill="var(--filament)"
      fill-opacity="0.2"
      fill-rule="evenodd"
      stroke="var(--filament-line)"
      stroke-width="1.5"
      :data-level="c.level"
    />
    <path
      v-for="c in over"
      :key="`over-${c.level}`"
      :d="frame.path(c.rings)"
      fill="none"
      stroke="var(--led-line)"
      stroke-width="2.5"
      stroke-dasharray="7 5"
    />
    <path :d="`M${WIDTH / 2} ${-PAD}V${frame.height + PAD}`" stroke="var(--edge)" stroke-width="1.5" stroke-dasharray="3 5" />
    <path v-if="cut !== null" :d="`M${-PAD} ${cut}H${WIDTH + PAD}`" stroke="var(--brick)" stroke-width="3" stroke-dasharray="12 6" />
    <template v-if="ground !== null && ground <= frame.height + PAD">
      <path :d="`M${-PAD} ${ground}H${WIDTH + PAD}`" stroke="var(--ink)" stroke-width="4" />
      <text :x="WIDTH" :y="ground - 6" text-anchor="end" font-size="16" fill="var(--ink)">floor</text>
    </template>
    <template v-if="dotted">
      <template v-for="(row, j) in wall.read ?? []" :key="j">
        <circle
          v-for="(read, i) in row"
          :key="i"
          :cx="i * across"
          :cy="lines[j].y"
          r="3"
          :fill="read ? 'var(--ink)' : 'var(--leaf)'"
          stroke="var(--ink)"
          stroke-width="1"
          opacity="0.7"
        />
      </template>
    </template>
    <LevelFigures :frame="frame" :contours="wall.contours" />
    <g v-if="wall.figures" :transform="`translate(${frame.x(wall.figures.peak_x)} ${frame.y(wall.figures.peak_y)})`">
      <path d="M-8 0H8M0 -8V8" stroke="var(--ink)" stroke-width="2.5" />
    </g>
    <template v-for="(row, j) in wall.lux" :key="`pick-${j}`">
      <rect
        v-for="(lux, i) in row"
        :key="i"
        :x="(i - 0.5) * across"
        :y="lines[j].top"
        :width="across"
        :height="lines[j].bottom - lines[j].top"
        fill="transparent"
        :class="pickable ? 'cursor-pointer' : ''"
        :stroke="mark === `r${lines[j].number}c${i}` ? 'var(--brass)' : 'none'"
        stroke-width="4"
        @click="pickable && emit('pick', `r${lines[j].number}c${i}`)"
      >
        <title>{{ wall.read?.[j][i] ? `${luxText(lux)} lx` : 'not read' }}</title>
      </rect>
    </template>
  </svg>
</template>
