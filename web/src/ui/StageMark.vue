<script setup lang="ts">
defineProps<{ state: string }>()
</script>

<template>
  <svg width="14" height="14" viewBox="0 0 14 14" aria-hidden="true" class="shrink-0">
    <rect
      x="1"
      y="1"
      width="12"
      height="12"
      :fill="state === 'done' ? 'currentColor' : 'none'"
      stroke="currentColor"
      stroke-width="2"
      :stroke-dasharray="state === 'stale' ? '3 2' : undefined"
    />
    <rect v-if="state === 'part'" x="1" y="1" width="6" height="12" fill="currentColor" />
    <path v-if="state === 'stale'" d="M3.5 7h7" stroke="currentColor" stroke-width="2" />
  </svg>
</template>
