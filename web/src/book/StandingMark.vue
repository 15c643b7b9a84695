<script setup lang="ts">
import type { Schemas } from '../api/client'

/** When a look again is due, in words, and in a tone that overdue alone shouts with. */
defineProps<{ standing: Schemas['Standing']; words: string }>()
const TONES: Record<string, string> = {
  overdue: 'font-semibold text-brick',
  due: 'font-semibold text-brass',
  soon: 'text-brass',
  done: 'text-moss',
}
</script>

<template>
  <span :class="TONES[standing] ?? 'text-dim'">{{ words }}</span>
</template>
