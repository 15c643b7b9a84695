<script setup lang="ts">
/** How a light looks: by fill, by rays and by motion, so that it works in grey and at rest. */
defineProps<{ look: Schemas['DrillLooks'][string] | null; lamp: boolean }>()
import type { Schemas } from '../api/client'
const FILL: Record<string, number> = { dark: 0, ghost: 0.18, dim: 0.45, steady: 1, flashes: 1 }
</script>

<template>
  <svg width="34" height="34" viewBox="-17 -17 34 34" class="shrink-0" aria-hidden="true">
    <g v-if="look && FILL[look] === 1 && lamp" :class="look === 'flashes' ? 'drill-flash' : ''">
      <path
        d="M0-16v5M0 16v-5M-16 0h5M16 0h-5M-11.3-11.3l3.5 3.5M11.3 11.3l-3.5-3.5M-11.3 11.3l3.5-3.5M11.3-11.3l-3.5 3.5"
        stroke="var(--filament)"
        stroke-width="2.5"
      />
    </g>
    <circle
      v-if="lamp"
      r="8"
      fill="var(--leaf)"
      stroke="var(--edge)"
      stroke-width="2"
      :stroke-dasharray="look === null ? '3 3' : undefined"
    />
    <rect
      v-else
      x="-8"
      y="-8"
      width="16"
      height="16"
      fill="var(--leaf)"
      stroke="var(--edge)"
      stroke-width="2"
      :stroke-dasharray="look === null ? '3 3' : undefined"
    />
    <template v-if="look && FILL[look] > 0">
      <circle v-if="lamp" r="7" fill="var(--light-amber)" :opacity="FILL[look]" :class="look === 'flashes' ? 'drill-flash' : ''" />
      <rect v-else x="-6" y="-6" width="12" height="12" fill="var(--led-line)" :opacity="FILL[look]" />
    </template>
  </svg>
</template>
