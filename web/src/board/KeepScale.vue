<script setup lang="ts">
import { computed } from 'vue'
import { plain } from '../ui/format'

/** Amps kept, with the colours of their verdicts: before, after. */
const props = defineProps<{ before: number | null; after: number | null; tones: string[]; far: number }>()
const W = 260
const MID = W / 2
const at = (amps: number) => MID + (amps / props.far) * (MID - 8)
const label = computed(
  () =>
    `came in ${props.before === null ? 'unknown' : plain(props.before, 1)} A, after ${props.after === null ? 'unknown' : plain(props.after, 1)} A`,
)
</script>

<template>
  <svg :viewBox="`0 0 ${W} 46`" class="block h-12 w-full max-w-xs" preserveAspectRatio="xMidYMid meet" role="img" :aria-label="label">
    <path :d="`M4 23H${W - 4}`" stroke="var(--line)" stroke-width="2" />
    <g v-if="before !== null">
      <rect
        :x="Math.min(MID, at(before))"
        y="7"
        :width="Math.abs(at(before) - MID)"
        height="11"
        fill="none"
        :stroke="tones[0]"
        stroke-width="2"
        stroke-dasharray="4 3"
      />
    </g>
    <g v-if="after !== null">
      <rect :x="Math.min(MID, at(after))" y="27" :width="Math.abs(at(after) - MID)" height="13" :fill="tones[1]" />
    </g>
    <path :d="`M${MID} 2V44`" stroke="var(--ink)" stroke-width="2.5" />
  </svg>
</template>
