<script setup lang="ts">
/** A note in the tone of its news: calm for calm news alone. */
defineProps<{ tone: 'good' | 'bad' | 'doubt' | 'plain' }>()
const TONES = {
  good: 'border-moss bg-moss-soft',
  bad: 'border-brick bg-brick-soft',
  doubt: 'border-brass bg-brass-soft',
  plain: 'border-edge bg-shade',
}
</script>

<template>
  <div class="border-l-4 p-3" :class="TONES[tone]"><slot /></div>
</template>
