<script setup lang="ts">
import { computed, useId } from 'vue'
import { useEditor } from '../state/useEditor'
import FieldShell from './FieldShell.vue'

const props = defineProps<{ at: string; label: string; hideLabel?: boolean; help?: string; lines?: number; placeholder?: string }>()
const job = useEditor()
const id = useId()
const text = computed(() => job.drafts[props.at] ?? (job.at(props.at) as string | undefined) ?? '')

function typed(event: Event) {
  job.type(props.at, (event.target as HTMLInputElement).value)
}
</script>

<template>
  <FieldShell :id="id" :at="at" :label="label" :hide-label="hideLabel" :help="help">
    <textarea
      v-if="lines"
      :id="id"
      class="field"
      :rows="lines"
      :value="text"
      :data-at="at"
      :aria-invalid="job.errors[at] ? 'true' : undefined"
      @input="typed"
    />
    <input
      v-else
      :id="id"
      class="field"
      :value="text"
      :placeholder="placeholder"
      autocomplete="off"
      :data-at="at"
      :aria-invalid="job.errors[at] ? 'true' : undefined"
      @input="typed"
    />
  </FieldShell>
</template>
