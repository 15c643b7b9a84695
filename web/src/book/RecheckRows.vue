<script setup lang="ts">
import type { Schemas } from '../api/client'
import StandingMark from './StandingMark.vue'

/** Looks again of a machine, each a way to its ticket. */
defineProps<{ rows: Schemas['Recheck'][] }>()
const found = (r: Schemas['Recheck']) =>
  r.lamps
    .filter((l) => l.saw && l.saw !== 'ok')
    .map((l) => `${l.name}: ${l.saw}`)
    .join(', ')
</script>

<template>
  <ul>
    <li v-for="r in rows" :key="`${r.job}${r.id}`" class="border-b border-line">
      <RouterLink
        class="flex min-h-12 flex-wrap items-center gap-x-3 py-1 hover:bg-shade"
        :to="{ name: 'recheck', params: { id: r.job, recheck: r.id } }"
      >
        <span class="num w-28">{{ r.due_on ?? 'no day' }}</span>
        <span class="min-w-0 flex-1">{{ r.what }}</span>
        <span v-if="r.done_on" class="text-sm" :class="found(r) ? 'font-semibold text-brick' : ''">{{ found(r) || 'all well' }}</span>
        <StandingMark :standing="r.standing" :words="r.words" />
      </RouterLink>
    </li>
  </ul>
</template>
