<script setup lang="ts">
import { computed } from 'vue'
import { useEditor } from '../state/useEditor'

const props = defineProps<{ at: string; label: string; fallback?: boolean }>()
const job = useEditor()
const on = computed(() => (job.at(props.at) as boolean | undefined) ?? props.fallback ?? false)
</script>

<template>
  <button
    type="button"
    role="switch"
    :disabled="job.readonly"
    :aria-checked="on"
    class="flex min-h-11 items-center gap-3 px-1"
    @click="job.set(at, !on)"
  >
    <span class="relative h-6 w-11 shrink-0 border-2" :class="on ? 'border-brass bg-brass' : 'border-edge bg-leaf'" aria-hidden="true">
      <span class="absolute top-0.5 h-4 w-4" :class="on ? 'right-0.5 bg-on-brass' : 'left-0.5 bg-edge'" />
    </span>
    <span>{{ label }}</span>
  </button>
</template>
