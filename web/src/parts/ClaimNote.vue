<script setup lang="ts">
import type { Schemas } from '../api/client'
import { plain } from '../ui/format'

/** What the seller says, held against itself and against the reading. */
defineProps<{ claim: Schemas['ClaimView'] }>()
</script>

<template>
  <div class="my-3" data-testid="claim">
    <p v-if="claim.beside" class="text-lg font-semibold">{{ claim.beside }}</p>
    <p v-else-if="claim.low_w !== null && claim.high_w !== null">
      Advertised {{ plain(claim.watts ?? 0, 0) }} W: until measured, {{ plain(claim.low_w, 0) }} to {{ plain(claim.high_w, 0) }} W is
      carried.
    </p>
    <p v-for="f in claim.findings" :key="f.text" :class="f.level === 'impossible' ? 'font-semibold text-brick' : 'text-brass'">
      {{ f.text }}
    </p>
  </div>
</template>
