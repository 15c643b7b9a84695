<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { plain } from '../../ui/format'

/** The wall as steps of light; two maps side by side share one scale. */
const props = defineProps<{ wall: Schemas['WallView']; most: number; cutoff: number }>()
const emit = defineEmits<{ pick: [cell: string] }>()
const SCALE = 170
const STEPS = [0.75, 0.5, 0.25, 0.1, 0.05, 0.02]
const xs = computed(() => props.wall.xs)
const ys = computed(() => props.wall.ys)
const width = computed(() => (xs.value.at(-1)! - xs.value[0]) * SCALE)
const cell = computed(() => ({
  w: width.value / (xs.value.length - 1),
  h: ((ys.value[0] - ys.value.at(-1)!) * SCALE) / (ys.value.length - 1),
}))
const height = computed(() => cell.value.h * ys.value.length)
/** Shade by step, so that it reads as a contour map and works in grey. */
function shade(lux: number) {
  const step = STEPS.findIndex((s) => lux >= s * props.most)
  return step < 0 ? 0.03 : 0.95 - (step / STEPS.length) * 0.85
}
const y = (metres: number) => (ys.value[0] - metres) * SCALE + cell.value.h / 2
</script>

<template>
  <svg
    :viewBox="`${-cell.w / 2} 0 ${width + cell.w} ${height}`"
    class="block w-full border border-line bg-leaf"
    role="img"
    :aria-label="`${wall.beam} beam on the wall, ${wall.side}`"
  >
    <g v-for="(row, j) in wall.lux" :key="j">
      <g v-for="(lux, i) in row" :key="i" class="cursor-pointer" @click="emit('pick', `r${j}c${i}`)">
        <rect
          :x="i * cell.w - cell.w / 2"
          :y="j * cell.h"
          :width="cell.w + 0.5"
          :height="cell.h + 0.5"
          fill="var(--filament)"
          :fill-opacity="shade(lux)"
        />
        <text
          v-if="xs.length <= 15"
          :x="i * cell.w"
          :y="j * cell.h + cell.h / 2 + 5"
          text-anchor="middle"
          font-size="15"
          class="num"
          :fill="shade(lux) > 0.6 ? 'var(--block-ink)' : wall.read?.[j][i] ? 'var(--ink)' : 'var(--dim)'"
        >
          {{ wall.read?.[j][i] ? plain(lux, lux < 10 ? 1 : 0) : '·' }}
        </text>
      </g>
    </g>
    <path :d="`M${-cell.w / 2} ${y(cutoff)}H${width + cell.w / 2}`" stroke="var(--brick)" stroke-width="3" stroke-dasharray="10 6" />
    <path :d="`M${width / 2} 0V${height}`" stroke="var(--edge)" stroke-width="1.5" stroke-dasharray="3 5" />
  </svg>
</template>
