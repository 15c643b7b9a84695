<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'

/** Big keys for one gloved hand; they type into the fields named. */
const props = defineProps<{ fields: { at: string; label: string; unit: string }[] }>()
const job = useJob()
const here = ref(0)
const field = computed(() => props.fields[Math.min(here.value, props.fields.length - 1)])
/** What the keys have typed so far; the first key after choosing a field begins anew. */
const typed = ref<string | null>(null)
watch(here, () => (typed.value = null))
const KEYS = ['7', '8', '9', '4', '5', '6', '1', '2', '3', '.', '0', '⌫']

function press(key: string) {
  const text = typed.value ?? (key === '⌫' ? String(job.at(field.value.at) ?? '') : '')
  typed.value = key === '⌫' ? text.slice(0, -1) : key === '.' && text.includes('.') ? text : text + key
  job.type(field.value.at, typed.value)
}
function clear() {
  typed.value = ''
  job.type(field.value.at, '')
}
</script>

<template>
  <div class="mt-3 max-w-md border border-line p-2" role="group" aria-label="Big keys" data-testid="key-pad">
    <div class="mb-2 flex gap-2">
      <ChoiceRow
        class="flex-1"
        label="Field to type into"
        stretch
        :options="fields.map((f, key) => ({ key, label: `${f.label} ${f.unit}` }))"
        :value="here"
        @pick="here = $event"
      />
      <button type="button" class="btn" @click="clear">clear</button>
    </div>
    <div class="grid grid-cols-3 gap-2">
      <button
        v-for="k in KEYS"
        :key="k"
        type="button"
        class="btn num min-h-16 justify-center text-2xl"
        :aria-label="k === '⌫' ? 'Delete one' : k"
        @click="press(k)"
      >
        {{ k }}
      </button>
    </div>
  </div>
</template>
