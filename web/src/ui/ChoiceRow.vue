<script setup lang="ts" generic="K extends string | number">
/** One of a few, as buttons side by side; the chosen one is pressed. */
defineProps<{ label: string; options: readonly { key: K; label: string }[]; value?: K; stretch?: boolean }>()
defineEmits<{ pick: [key: K] }>()
</script>

<template>
  <div role="group" :aria-label="label" class="flex flex-wrap">
    <button
      v-for="o in options"
      :key="o.key"
      type="button"
      class="btn -ml-px"
      :class="stretch ? 'flex-1 justify-center px-2' : ''"
      :aria-pressed="value === o.key"
      @click="$emit('pick', o.key)"
    >
      {{ o.label }}
    </button>
  </div>
</template>
