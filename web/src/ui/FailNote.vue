<script setup lang="ts">
/** What went wrong, where something did. */
defineProps<{ text: string }>()
</script>

<template>
  <p v-if="text" class="mb-3 text-brick" role="alert">{{ text }}<slot /></p>
</template>
