<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useUnits } from '../../state/useUnits'
import { plain } from '../../ui/format'

defineProps<{ figures: Schemas['WallFigures'] }>()
const units = useUnits()
function say(metres: number) {
  const l = units.length(metres)
  return `${plain(l.value, l.digits)} ${l.unit}`
}
</script>

<template>
  <dl class="mt-2 grid grid-cols-[auto_1fr] gap-x-4">
    <dt class="text-dim">peak</dt>
    <dd class="num">{{ plain(figures.peak_lux, 1) }} lx, {{ plain(figures.peak_cd, 0) }} cd</dd>
    <dt class="text-dim">on the wall</dt>
    <dd class="num">
      {{ plain(figures.lumens, 1) }} ± {{ plain(figures.lumens_sigma, 1) }} lm<template v-if="figures.relative">, relative</template>
    </dd>
    <dt class="text-dim">above the cut-off</dt>
    <dd class="num font-bold" :class="figures.glaring ? 'text-brick' : ''">{{ plain(figures.glare * 100, 0) }} %</dd>
    <dt class="text-dim">half of peak, tenth</dt>
    <dd class="num">{{ say(figures.half_w) }} × {{ say(figures.half_h) }}, {{ say(figures.tenth_w) }} × {{ say(figures.tenth_h) }}</dd>
    <dt class="text-dim">balances at</dt>
    <dd class="num">
      {{ say(Math.abs(figures.centroid_x)) }} {{ figures.centroid_x < 0 ? 'left' : 'right' }}, {{ say(Math.abs(figures.centroid_y)) }}
      {{ figures.centroid_y < 0 ? 'down' : 'up' }}
    </dd>
    <template v-if="figures.missing">
      <dt class="text-dim">not read</dt>
      <dd class="num">{{ figures.missing }} marks, taken from their neighbours</dd>
    </template>
  </dl>
</template>
