<script setup lang="ts">
import { computed, useId } from 'vue'
import { useEditor } from '../state/useEditor'
import FieldShell from './FieldShell.vue'

const props = defineProps<{
  at: string
  label: string
  options: { key: string; label: string }[]
  hideLabel?: boolean
  help?: string
  none?: string
  /** What stands when nothing is chosen. */
  fallback?: string
}>()
const job = useEditor()
const id = useId()
const value = computed(() => (job.at(props.at) as string | undefined) ?? props.fallback ?? '')

function picked(event: Event) {
  const next = (event.target as HTMLSelectElement).value
  job.edit([next === '' ? { op: 'unset', at: props.at } : { op: 'set', at: props.at, value: next }])
}
</script>

<template>
  <FieldShell :id="id" :at="at" :label="label" :hide-label="hideLabel" :help="help">
    <select :id="id" class="field" :value="value" :data-at="at" @change="picked">
      <option v-if="none !== undefined || value === ''" value="">{{ none ?? 'choose' }}</option>
      <option v-for="o in options" :key="o.key" :value="o.key">{{ o.label }}</option>
    </select>
  </FieldShell>
</template>
