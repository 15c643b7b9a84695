<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, AWAY, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import Sheet from '../../ui/Sheet.vue'
import TablePreview from '../../ui/TablePreview.vue'
import ToneNote from '../../ui/ToneNote.vue'

const KINDS = [
  { key: 'readings', label: 'Readings' },
  { key: 'loads', label: 'Loads' },
] as const
const props = defineProps<{ kind: 'loads' | 'readings' | null }>()
const emit = defineEmits<{ close: []; kind: ['loads' | 'readings'] }>()
const job = useJob()
const text = ref('')
const preview = ref<Schemas['TablePreview'] | null>(null)
const failed = ref('')
const busy = ref(false)

watch(
  () => props.kind,
  () => {
    preview.value = null
    failed.value = ''
    if (text.value && props.kind) void send(false)
  },
)

async function chosen(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  text.value = await file.text()
  await send(false)
}

async function send(accept: boolean) {
  if (!props.kind) return
  busy.value = true
  failed.value = ''
  try {
    const { data, error } = await api.POST('/api/jobs/{id}/table', {
      params: { path: { id: job.id } },
      body: { kind: props.kind, text: text.value, accept, revision: job.view?.revision },
    })
    if (data) {
      preview.value = data
      if (data.accepted && data.change) {
        job.apply(data.change)
        text.value = ''
        emit('close')
      }
    } else {
      preview.value = null
      failed.value = error?.message ?? 'That did not work.'
    }
  } catch {
    failed.value = `${AWAY} Nothing was changed.`
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :open="kind !== null" title="Take in a table" wide @close="$emit('close')">
    <ChoiceRow class="mb-3" label="What the table holds" :options="KINDS" :value="kind ?? undefined" @pick="$emit('kind', $event)" />
    <label class="mb-1 block text-dim" for="csv-file">CSV file; the first line names the columns, units in brackets</label>
    <input id="csv-file" type="file" accept=".csv,text/csv" class="field py-2" @change="chosen" />
    <p v-if="busy" class="mt-3 text-dim" role="status">Reading …</p>
    <ToneNote v-if="failed" tone="bad" class="mt-3" role="alert">{{ failed }}</ToneNote>
    <TablePreview v-if="preview" :preview="preview" :busy="busy" @take="send(true)" />
  </Sheet>
</template>
