<script setup lang="ts">
import { ref, useId, watch } from 'vue'
import { money } from './format'
import { centsOf, countOf } from './typed'

/** A field outside a job: sent when it is left, kept as typed where it can't be taken. */
const props = defineProps<{ label: string; value?: string | number | null; kind?: 'text' | 'cents' | 'count'; placeholder?: string }>()
const emit = defineEmits<{ change: [value: string | number | undefined] }>()
const id = useId()
const show = () =>
  props.value === null || props.value === undefined ? '' : props.kind === 'cents' ? money(Number(props.value)) : String(props.value)
const text = ref(show())
const wrong = ref('')
watch(
  () => props.value,
  () => {
    if (!wrong.value) text.value = show()
  },
)

function leave() {
  if (text.value === show()) return
  const read = props.kind === 'cents' ? centsOf(text.value) : props.kind === 'count' ? countOf(text.value) : text.value.trim() || undefined
  wrong.value = read === null ? (props.kind === 'cents' ? '12.50 or 12,50' : 'a whole number') : ''
  if (read !== null) emit('change', read)
}
</script>

<template>
  <div>
    <label :for="id" class="mb-1 block text-dim">{{ label }}</label>
    <input
      :id="id"
      v-model="text"
      class="field"
      :class="kind && kind !== 'text' ? 'num' : ''"
      :placeholder="placeholder"
      autocomplete="off"
      :inputmode="kind && kind !== 'text' ? 'decimal' : undefined"
      :aria-invalid="wrong ? 'true' : undefined"
      @change="leave"
    />
    <p v-if="wrong" class="mt-1 text-brick" role="alert">Accepted: {{ wrong }}.</p>
  </div>
</template>
