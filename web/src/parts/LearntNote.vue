<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What the shop has learnt of a part that is chosen again: where it disappoints, that stands out. */
defineProps<{ findings: Schemas['RecordFinding'][]; part: string; most?: number }>()
</script>

<template>
  <ul v-if="findings.length" data-testid="learnt-note">
    <li
      v-for="f in findings.slice(0, most ?? 9)"
      :key="f.text"
      class="text-sm"
      :class="f.level === 'warning' ? 'font-semibold text-brick' : 'text-dim'"
    >
      {{ f.text }}
      <RouterLink class="underline underline-offset-4" :to="{ name: 'learnt-part', query: { name: part } }">its record</RouterLink>
    </li>
  </ul>
</template>
