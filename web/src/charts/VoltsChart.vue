<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { line } from 'd3-shape'
import { computed } from 'vue'
import { plain } from '../ui/format'
import { useJob } from '../state/useJob'
import { useRail } from '../rail/useRail'
import EmptyBox from '../ui/EmptyBox.vue'
import { useFrame } from './useFrame'

const job = useJob()
const rail = useRail()
const HEIGHT = 150
const LEFT = 40
const RIGHT = 26
const BOTTOM = 28
const TOP = 10

const curve = computed(() => rail.curve.value)
const sides = computed(() => (['before', 'after'] as const).filter((s) => curve.value?.system_v[s]))
const values = computed(() => sides.value.flatMap((s) => curve.value!.system_v[s] as number[]))
const { width, x, xTicks, foot } = useFrame(
  { height: HEIGHT, left: LEFT, right: RIGHT, top: TOP, bottom: BOTTOM },
  computed(() => curve.value?.rpm.at(-1) ?? 1),
)
const y = computed(() => {
  const low = Math.min(...values.value)
  return scaleLinear([low < 9 ? 0 : 11, Math.max(15, ...values.value)], [foot, TOP]).nice(4)
})
function path(side: 'before' | 'after') {
  const volts = curve.value!.system_v[side] as number[]
  return (
    line<number>(
      (_, i) => x.value(curve.value!.rpm[i]),
      (v) => y.value(v),
    )(volts) ?? ''
  )
}
</script>

<template>
  <figure ref="box" class="min-w-0">
    <figcaption class="mb-1 flex flex-wrap gap-x-4 font-semibold text-dim">
      System volts over engine speed
      <span class="font-normal"
        ><svg width="26" height="10" class="inline" aria-hidden="true">
          <path d="M0 5h26" stroke="var(--filament-line)" stroke-width="3" stroke-dasharray="7 5" />
        </svg>
        as it came in</span
      >
      <span class="font-normal"
        ><svg width="26" height="10" class="inline" aria-hidden="true"><path d="M0 5h26" stroke="var(--led-line)" stroke-width="3" /></svg>
        after</span
      >
    </figcaption>
    <EmptyBox v-if="!curve || sides.length === 0">
      {{ rail.line('after')?.system_v.reason ?? (rail.running.value && !job.rail?.curve ? 'Drawing …' : 'Nothing to solve yet.') }}
    </EmptyBox>
    <svg v-else :width="width" :height="HEIGHT" role="img" aria-label="System volts over engine speed, before and after">
      <g v-for="t in y.ticks(4)" :key="t">
        <path :d="`M${LEFT} ${y(t)}H${width - RIGHT}`" stroke="var(--line)" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" font-size="14" fill="var(--dim)" class="num">{{ t }}</text>
      </g>
      <g v-for="t in xTicks" :key="t">
        <text :x="x(t)" :y="foot + 19" text-anchor="middle" font-size="14" fill="var(--dim)" class="num">{{ plain(t, 0) }}</text>
      </g>
      <path
        v-for="s in sides"
        :key="s"
        :d="path(s)"
        fill="none"
        :stroke="s === 'after' ? 'var(--led-line)' : 'var(--filament-line)'"
        stroke-width="3"
        :stroke-dasharray="s === 'after' ? undefined : '7 5'"
      />
      <path v-if="rail.rpm.value !== null" :d="`M${x(rail.rpm.value)} ${TOP}V${foot}`" stroke="var(--brass)" stroke-width="1.5" />
    </svg>
  </figure>
</template>
