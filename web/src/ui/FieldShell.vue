<script setup lang="ts">
import { computed } from 'vue'
import { useEditor } from '../state/useEditor'

const props = defineProps<{ at: string; label: string; id: string; hideLabel?: boolean; help?: string }>()
const job = useEditor()
const error = computed(() => job.errors[props.at])
const problem = computed(() => job.problems[props.at])
</script>

<template>
  <div>
    <label :for="id" class="mb-1 block text-dim" :class="hideLabel ? 'sr-only' : ''">{{ label }}</label>
    <fieldset :disabled="job.readonly" class="contents"><slot /></fieldset>
    <p v-if="error" :id="`${id}-wrong`" class="mt-1 text-brick" role="alert">
      <span class="font-semibold">{{ error.message }}.</span> Accepted: {{ error.accepts }}.
    </p>
    <p v-else-if="problem" :id="`${id}-wrong`" class="mt-1" :class="problem.level === 'note' ? 'text-dim' : 'text-brick'">
      {{ problem.message }}. Accepted: {{ problem.accepts }}.
    </p>
    <p v-else-if="help" class="mt-1 text-sm text-dim">{{ help }}</p>
  </div>
</template>
