<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useUnits } from '../../state/useUnits'

/** What to tape to the wall, to scale in height. */
const props = defineProps<{ aim: Schemas['AimView']; lampHeight: number; distance: number; now?: number }>()
const units = useUnits()
const WIDTH = 760
const HEIGHT = 420
const MIDDLE = 400
const drops = computed(() => [props.aim.drop.value ?? 0, ...(props.aim.limits ?? []), props.now ?? 0, props.aim.drop_unladen.value ?? 0])
const span = computed(() => Math.max(0.12, ...drops.value) * 1.35)
const high = computed(() => Math.min(0, ...drops.value) - 0.04)
function y(drop: number) {
  return 60 + ((drop - high.value) / (span.value - high.value)) * (HEIGHT - 110)
}
const { say } = units
const lines = computed(() =>
  [
    { at: 0, words: `lamp’s centre, ${say(props.lampHeight)} over the floor`, kind: 'lamp' },
    { at: props.aim.drop.value, words: `cut-off, rider aboard: ${say(props.aim.drop.value ?? 0)} down`, kind: 'cut' },
    { at: props.aim.drop_unladen.value, words: `cut-off, nobody aboard: ${say(props.aim.drop_unladen.value ?? 0)} down`, kind: 'bare' },
    { at: props.now ?? null, words: `as it is now: ${say(props.now ?? 0)} down`, kind: 'now' },
  ].flatMap((l) => (l.at === null || l.at === undefined ? [] : [{ ...l, at: l.at }])),
)
/** Labels that would lie on each other step aside. */
const labels = computed(() => {
  let last = -100
  return [...lines.value]
    .sort((a, b) => a.at - b.at)
    .map((l) => {
      if (l.kind === 'now') return { ...l, label: y(l.at) - 6 }
      last = Math.max(y(l.at) - 6, last + 24)
      return { ...l, label: last }
    })
})
</script>

<template>
  <figure data-testid="wall">
    <svg
      :viewBox="`0 0 ${WIDTH} ${HEIGHT}`"
      class="block w-full border border-line bg-leaf"
      role="img"
      aria-label="Wall diagram for aiming"
    >
      <rect
        v-if="aim.limits"
        x="0"
        :width="WIDTH"
        :y="y(aim.limits[0])"
        :height="y(aim.limits[1]) - y(aim.limits[0])"
        fill="var(--moss-soft)"
      />
      <path :d="`M${MIDDLE} 30V${HEIGHT - 20}`" stroke="var(--dim)" stroke-width="2" stroke-dasharray="3 5" />
      <text :x="MIDDLE + 8" y="26" font-size="17" fill="var(--dim)">straight ahead of the lamp</text>
      <g v-for="l in labels" :key="l.kind">
        <path
          :d="l.kind === 'cut' ? `M20 ${y(l.at)}H${MIDDLE}L${WIDTH - 20} ${y(l.at)}` : `M20 ${y(l.at)}H${WIDTH - 20}`"
          fill="none"
          :stroke="
            l.kind === 'cut' ? 'var(--brass)' : l.kind === 'now' ? 'var(--brick)' : l.kind === 'bare' ? 'var(--led-line)' : 'var(--ink)'
          "
          :stroke-width="l.kind === 'cut' ? 5 : 2.5"
          :stroke-dasharray="l.kind === 'now' ? '4 6' : l.kind === 'bare' ? '12 6' : undefined"
        />
        <text
          :x="l.kind === 'now' ? WIDTH - 26 : 26"
          :y="l.label"
          :text-anchor="l.kind === 'now' ? 'end' : 'start'"
          font-size="18"
          fill="var(--ink)"
        >
          {{ l.words }}
        </text>
      </g>
      <text :x="WIDTH - 20" :y="HEIGHT - 8" text-anchor="end" font-size="17" fill="var(--dim)">
        {{ say(distance) }} from the lamp; allowed {{ aim.limits ? `${say(aim.limits[0])} to ${say(aim.limits[1])}` : '' }} down
      </text>
    </svg>
  </figure>
</template>
