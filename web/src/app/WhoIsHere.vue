<script setup lang="ts">
import { computed } from 'vue'
import { usePresence } from '../state/usePresence'

/** Others who have a machine open, and at which stage. */
const props = defineProps<{ job: string; stages: { stage: string; label: string }[] }>()
const { others } = usePresence()
const said = computed(() => [
  ...new Set(
    others(props.job).map((w) => {
      const stage = props.stages.find((s) => s.stage === w.stage)?.label
      return [w.who ?? 'another window', stage].filter(Boolean).join(', ')
    }),
  ),
])
</script>

<template>
  <p v-if="said.length > 0" class="text-sm" data-testid="who-is-here">
    <span class="font-semibold text-brass">open elsewhere:</span> {{ said.join('; ') }}
  </p>
</template>
