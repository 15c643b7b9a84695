<script setup lang="ts">
import { computed } from 'vue'
import { useReference } from '../state/useReference'

const props = defineProps<{ of: string }>()
const reference = useReference()
const text = computed(() => reference.tables?.cautions[props.of])
</script>

<template>
  <p v-if="text" class="flex items-start gap-3 border-l-4 border-brick bg-brick-soft px-3 py-2" role="note">
    <svg class="mt-0.5 h-6 w-6 shrink-0 text-brick" viewBox="0 0 24 24" aria-hidden="true">
      <path d="M12 3 22 21H2Z" fill="none" stroke="currentColor" stroke-width="2.4" stroke-linejoin="round" />
      <path d="M12 10v5M12 17v2" stroke="currentColor" stroke-width="2.4" />
    </svg>
    <span><span class="sr-only">Caution: </span>{{ text }}</span>
  </p>
</template>
