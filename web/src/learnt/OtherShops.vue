<script setup lang="ts">
import type { Schemas } from '../api/client'
import { plain } from '../ui/format'

/** What other shops read of the same, each under its mark. */
defineProps<{ others: Schemas['BookOthers']; unit: string }>()
</script>

<template>
  <p v-for="o in others" :key="o.shop" class="num text-sm text-brass">
    Shop {{ o.shop }}: {{ plain(o.mean ?? 0, 2) }}<template v-if="o.deviation"> ± {{ plain(o.deviation, 2) }}</template> {{ unit }},
    {{ o.n }} read<template v-if="o.last_on">, until {{ o.last_on }}</template>
  </p>
</template>
