<script setup lang="ts">
/** Where nothing is yet: what would stand here, and how it comes. */
defineProps<{ bad?: boolean }>()
</script>

<template>
  <div data-testid="empty" class="border-2 border-dashed border-line p-4" :class="bad ? 'text-brick' : 'text-dim'"><slot /></div>
</template>
