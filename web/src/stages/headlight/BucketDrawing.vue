<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useUnits } from '../../state/useUnits'

/** The part in its bucket to scale, what is measured of either; and the front with the chips. */
const props = defineProps<{
  housing: Schemas['job_housing']
  part: Schemas['job_part']
  kind: Schemas['job_headlamp_kind']
  findings: Schemas['FitFinding'][]
  /** Room for a plug and its bend behind the part, m. */
  plugRoom: number
}>()
const units = useUnits()
/** Reference plane at this x; a millimetre is so many units. */
const PLANE = 300
const SCALE = 2600
const MIDDLE = 150
const clash = (rule: string) => ['no', 'work'].includes(props.findings.find((f) => f.rule === rule)?.verdict ?? '')
const h = computed(() => props.housing)
const p = computed(() => props.part)
const bulb = computed(() => props.kind === 'bulb')
const half = computed(() => (h.value.hole_m === undefined ? null : (h.value.hole_m / 2) * SCALE))
const body = computed(() => (p.value.body_m === undefined ? null : p.value.body_m * SCALE))
/** What is not drawn, because nobody measured it. */
const missing = computed(() =>
  [
    h.value.hole_m === undefined && 'the hole',
    h.value.depth_m === undefined && 'the bucket’s depth',
    p.value.behind_m === undefined && 'the length behind the plane',
    p.value.behind_m !== undefined && p.value.body_m === undefined && 'the body’s thickness (its length is a line)',
    bulb.value && p.value.before_m === undefined && 'the length before the plane',
    bulb.value && p.value.emitter_m === undefined && 'the chip',
  ].filter((said) => said !== false),
)
const say = (metres: number | undefined) => (metres === undefined ? 'not measured' : units.small(metres))
const chips = computed(() => [p.value.clock_deg, p.value.clock_deg === undefined ? undefined : p.value.clock_deg + 180])
/** What is to spare, or wanting, at a place of the drawing. */
function spare(rule: string) {
  const found = props.findings.find((f) => f.rule === rule)
  if (found?.clearance == null) return null
  return {
    text: `${say(Math.abs(found.clearance))} ${found.wanting ? 'wanting' : 'to spare'}`,
    tone: found.wanting ? 'var(--brick)' : 'var(--moss)',
  }
}
const behind = computed(() => spare('depth'))
const ahead = computed(() => (bulb.value ? spare('before') : null))
const tone = (rule: string) => (clash(rule) ? 'var(--brick)' : 'var(--led-line)')
</script>

<template>
  <figure data-testid="bucket">
    <svg
      viewBox="0 0 860 300"
      class="block w-full border border-line bg-leaf"
      role="img"
      :aria-label="`${part.name} in the housing, to scale`"
    >
      <template v-if="half !== null">
        <path
          :d="`M24 40 C 110 60 220 100 ${PLANE} ${MIDDLE - half}M24 260 C 110 240 220 200 ${PLANE} ${MIDDLE + half}`"
          fill="none"
          stroke="var(--edge)"
          stroke-width="3"
        />
        <path d="M24 40V260" stroke="var(--edge)" stroke-width="3" />
      </template>
      <path :d="`M${PLANE} 30V270`" stroke="var(--dim)" stroke-width="1.5" stroke-dasharray="3 5" />
      <text class="clear" :x="PLANE" y="22" text-anchor="middle" font-size="16" fill="var(--dim)">reference plane</text>
      <template v-if="h.depth_m">
        <path :d="`M${PLANE + h.depth_m * SCALE} 60V240`" stroke="var(--edge)" stroke-width="4" />
        <text class="clear" :x="PLANE + h.depth_m * SCALE + 6" y="74" font-size="16" fill="var(--dim)">bucket {{ say(h.depth_m) }}</text>
      </template>
      <template v-if="bulb && h.before_room_m">
        <path :d="`M${PLANE - h.before_room_m * SCALE} 112V188`" stroke="var(--edge)" stroke-width="4" />
        <text
          class="clear"
          :x="PLANE - h.before_room_m * SCALE - 8"
          :y="MIDDLE - 4"
          text-anchor="end"
          font-size="16"
          :fill="ahead?.tone ?? 'var(--dim)'"
        >
          shade {{ say(h.before_room_m) }}
          <tspan v-if="ahead" :x="PLANE - h.before_room_m * SCALE - 8" dy="20">{{ ahead.text }}</tspan>
        </text>
      </template>
      <template v-if="p.behind_m">
        <rect
          :x="PLANE + p.behind_m * SCALE"
          :y="MIDDLE - 20"
          :width="plugRoom * SCALE"
          height="40"
          fill="none"
          stroke="var(--dim)"
          stroke-width="1.5"
          stroke-dasharray="4 4"
        />
        <text class="clear" :x="PLANE + 10" :y="MIDDLE + (body ?? 40) / 2 + 24" font-size="16" :fill="behind?.tone ?? 'var(--dim)'">
          plug{{ behind ? `, ${behind.text}` : '' }}
        </text>
      </template>
      <template v-if="h.lock_room_m">
        <path
          :d="`M${PLANE + h.lock_room_m * SCALE} 100V246`"
          :stroke="clash('lock') ? 'var(--brick)' : 'var(--edge)'"
          stroke-width="2.5"
          stroke-dasharray="9 6"
        />
        <text
          class="clear"
          :x="PLANE + h.lock_room_m * SCALE + 6"
          y="288"
          font-size="16"
          :fill="clash('lock') ? 'var(--brick)' : 'var(--dim)'"
        >
          at the locks {{ say(h.lock_room_m) }}
        </text>
      </template>
      <rect
        v-if="p.behind_m && body !== null"
        :x="PLANE"
        :y="MIDDLE - body / 2"
        :width="p.behind_m * SCALE"
        :height="body"
        :stroke="tone('depth')"
        stroke-width="3"
        fill="var(--led)"
        fill-opacity="0.35"
      />
      <path
        v-else-if="p.behind_m"
        :d="`M${PLANE} ${MIDDLE}H${PLANE + p.behind_m * SCALE}m0 -14v28`"
        fill="none"
        :stroke="tone('depth')"
        stroke-width="3"
      />
      <rect
        v-if="bulb && p.fin_m"
        :x="PLANE - 8"
        :y="MIDDLE - (p.fin_m / 2) * SCALE"
        width="8"
        :height="p.fin_m * SCALE"
        :fill="tone('hole')"
      />
      <path
        v-if="bulb && p.before_m"
        :d="`M${PLANE} ${MIDDLE}H${PLANE - p.before_m * SCALE}m0 -12v24`"
        fill="none"
        stroke="var(--led-line)"
        stroke-width="3"
      />
      <template v-if="bulb && p.emitter_m">
        <circle :cx="PLANE - p.emitter_m * SCALE" :cy="MIDDLE" r="7" :fill="tone('emitter')" />
        <text class="clear" :x="PLANE - p.emitter_m * SCALE" :y="MIDDLE + 46" text-anchor="middle" font-size="16" fill="var(--ink)">
          chip {{ say(p.emitter_m) }}
        </text>
      </template>
      <text v-if="p.behind_m" class="clear" :x="PLANE + 10" :y="body === null ? MIDDLE - 12 : MIDDLE + 6" font-size="17" fill="var(--ink)">
        {{ say(p.behind_m) }}
      </text>
      <text v-if="bulb" class="clear" :x="PLANE + 8" y="288" font-size="16" :fill="clash('hole') ? 'var(--brick)' : 'var(--dim)'">
        hole {{ say(h.hole_m) }}, fin {{ say(p.fin_m) }}
      </text>
      <g v-if="bulb && p.clock_deg !== undefined" transform="translate(740 150)">
        <circle r="72" fill="none" stroke="var(--edge)" stroke-width="2.5" />
        <path d="M0 -84V-70" stroke="var(--ink)" stroke-width="4" />
        <text class="clear" y="-92" text-anchor="middle" font-size="16" fill="var(--dim)">12, mark up</text>
        <g v-for="c in chips" :key="c" :transform="`rotate(${c})`">
          <rect x="-16" y="-54" width="32" height="16" :fill="clash('clock') ? 'var(--brick)' : 'var(--led-line)'" />
        </g>
        <text class="clear" y="104" text-anchor="middle" font-size="16" fill="var(--dim)">from the front</text>
      </g>
    </svg>
    <figcaption v-if="missing.length" class="text-sm text-dim" data-testid="not-drawn">
      Not drawn, because not measured: {{ missing.join(', ') }}.
    </figcaption>
  </figure>
</template>

<style scoped>
/* A label stands clear of the lines beneath it. */
.clear {
  paint-order: stroke;
  stroke: var(--leaf);
  stroke-width: 6px;
  stroke-linejoin: round;
}
</style>
