<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { area, line } from 'd3-shape'
import { computed, onScopeDispose } from 'vue'
import { plain } from '../ui/format'
import { useJob } from '../state/useJob'
import { drawsCurve } from '../rail/useCurve'
import { useRail } from '../rail/useRail'
import EmptyBox from '../ui/EmptyBox.vue'
import { useFrame } from './useFrame'

const job = useJob()
const rail = useRail()
onScopeDispose(drawsCurve())
const HEIGHT = 300
const LEFT = 40
const RIGHT = 26
const BOTTOM = 34
const TOP = 14

const curve = computed(() => rail.curve.value)
const spends = computed(() => ({ before: rail.line('before')?.spends.value ?? null, after: rail.line('after')?.spends.value ?? null }))
const most = computed(() => {
  const highs = curve.value?.earns_high ?? []
  return Math.max(...highs, spends.value.before ?? 0, spends.value.after ?? 0, 1) * 1.08
})
const { width, x, xTicks, foot } = useFrame(
  { height: HEIGHT, left: LEFT, right: RIGHT, top: TOP, bottom: BOTTOM },
  computed(() => curve.value?.rpm.at(-1) ?? 1),
)
const y = computed(() => scaleLinear([0, most.value], [foot, TOP]))
const points = computed(() =>
  (curve.value?.rpm ?? []).map((n, i) => ({
    n,
    a: curve.value!.earns![i],
    low: curve.value!.earns_low![i],
    high: curve.value!.earns_high![i],
  })),
)
const earned = computed(
  () =>
    line<{ n: number; a: number }>(
      (p) => x.value(p.n),
      (p) => y.value(p.a),
    )(points.value) ?? '',
)
const band = computed(
  () =>
    area<{ n: number; low: number; high: number }>(
      (p) => x.value(p.n),
      (p) => y.value(p.low),
      (p) => y.value(p.high),
    )(points.value) ?? '',
)
const measured = computed(() => {
  const circuit = job.document?.circuits.find((c) => c.id === job.rail?.circuit)
  return (circuit?.alternator?.points ?? []).filter((p) => p.rpm && p.amps)
})
const breaks = computed(() =>
  (['before', 'after'] as const).flatMap((side) => {
    const rpm = rail.line(side)?.break_even.value
    const amps = spends.value[side]
    return rpm && amps ? [{ side, rpm, amps }] : []
  }),
)
const lines = computed(() => {
  const list = (['before', 'after'] as const).flatMap((side) =>
    spends.value[side] === null ? [] : [{ side, amps: spends.value[side] as number }],
  )
  const close = list.length === 2 && Math.abs(y.value(list[0].amps) - y.value(list[1].amps)) < 20
  return list.map((l) => {
    const lower = list.length < 2 || l.amps === Math.min(...list.map((o) => o.amps))
    return {
      ...l,
      dy: lower || !close ? 17 : -6,
      hidden: close && list.length === 2 && list[0].amps === list[1].amps && l.side === 'before',
    }
  })
})
</script>

<template>
  <figure ref="box" class="min-w-0">
    <figcaption class="mb-1 font-semibold text-dim">Earned and spent over engine speed, amps</figcaption>
    <EmptyBox v-if="!curve">
      {{
        job.rail?.curve ??
        (rail.running.value ? 'Drawing …' : 'The engine is off in this scenario: nothing is earned. Pick one with the engine running.')
      }}
    </EmptyBox>
    <svg
      v-else
      :width="width"
      :height="HEIGHT"
      role="img"
      :aria-label="`Earn curve; break-even ${breaks.map((b) => `${b.side} ${Math.round(b.rpm)} rpm`).join(', ')}`"
    >
      <g v-for="t in y.ticks(6)" :key="t">
        <path :d="`M${LEFT} ${y(t)}H${width - RIGHT}`" stroke="var(--line)" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" font-size="14" fill="var(--dim)" class="num">{{ t }}</text>
      </g>
      <g v-for="t in xTicks" :key="t">
        <path :d="`M${x(t)} ${foot}v5`" stroke="var(--dim)" />
        <text :x="x(t)" :y="foot + 20" text-anchor="middle" font-size="14" fill="var(--dim)" class="num">{{ plain(t, 0) }}</text>
      </g>
      <text :x="width - RIGHT" :y="HEIGHT - 2" text-anchor="end" font-size="13" fill="var(--dim)">rpm</text>
      <path :d="band" fill="var(--brass)" opacity="0.18" />
      <path :d="earned" fill="none" stroke="var(--brass)" stroke-width="3" />
      <g v-for="l in lines" :key="l.side">
        <path
          :d="`M${LEFT} ${y(l.amps)}H${width - RIGHT}`"
          :stroke="l.side === 'after' ? 'var(--led-line)' : 'var(--filament-line)'"
          stroke-width="2.5"
          :stroke-dasharray="l.side === 'after' ? undefined : '7 5'"
        />
        <text v-if="!l.hidden" :x="width - RIGHT - 4" :y="y(l.amps) + l.dy" text-anchor="end" font-size="14" fill="var(--ink)" class="halo">
          {{ l.side === 'after' ? 'spent after' : 'spent as it came in' }}, {{ plain(l.amps, 1) }} A
        </text>
      </g>
      <g v-for="b in breaks" :key="b.side">
        <path :d="`M${x(b.rpm)} ${y(b.amps)}V${foot}`" stroke="var(--dim)" stroke-dasharray="2 4" stroke-width="1.5" />
        <circle :cx="x(b.rpm)" :cy="y(b.amps)" r="6.5" fill="var(--leaf)" stroke="var(--ink)" stroke-width="2.5" />
        <text
          :x="x(b.rpm) + (b.side === 'after' ? -10 : 10)"
          :y="y(b.amps) - 11"
          :text-anchor="b.side === 'after' ? 'end' : 'start'"
          font-size="15"
          fill="var(--ink)"
          class="num halo"
        >
          {{ plain(b.rpm, 0) }}
        </text>
      </g>
      <g v-for="p in measured" :key="p.id">
        <path :d="`M${x(p.rpm as number) - 5} ${y(p.amps as number)}h10m-5 -5v10`" stroke="var(--ink)" stroke-width="2" />
        <title>measured: {{ p.amps }} A at {{ p.rpm }} rpm, {{ p.stator ?? 'hot' }} stator</title>
      </g>
      <path v-if="rail.rpm.value !== null" :d="`M${x(rail.rpm.value)} ${TOP}V${foot}`" stroke="var(--brass)" stroke-width="1.5" />
    </svg>
  </figure>
</template>

<style scoped>
.halo {
  paint-order: stroke;
  stroke: var(--paper);
  stroke-width: 4px;
  stroke-linejoin: round;
}
</style>
