<script setup lang="ts">
import { computed, useId } from 'vue'
import { useEditor } from '../state/useEditor'
import FieldShell from './FieldShell.vue'

/** A day of the job, picked or typed. */
const props = defineProps<{ at: string; label: string; help?: string }>()
const job = useEditor()
const id = useId()
const value = computed(() => (job.at(props.at) as string | undefined) ?? '')

function picked(event: Event) {
  const day = (event.target as HTMLInputElement).value
  job.edit([day ? { op: 'set', at: props.at, value: day } : { op: 'unset', at: props.at }])
}
</script>

<template>
  <FieldShell :id="id" :at="at" :label="label" :help="help">
    <input :id="id" class="field" type="date" :value="value" :data-at="at" @change="picked" />
  </FieldShell>
</template>
