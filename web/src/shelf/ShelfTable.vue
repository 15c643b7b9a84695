<script setup lang="ts">
import { ref } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import Sheet from '../ui/Sheet.vue'
import TablePreview from '../ui/TablePreview.vue'
import ToneNote from '../ui/ToneNote.vue'

/** Parts as a table, looked over before they come in. */
defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; taken: [] }>()
const text = ref('')
const preview = ref<Schemas['ShelfTable'] | null>(null)
const failed = ref('')
const busy = ref(false)

async function chosen(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  text.value = await file.text()
  await send(false)
}
async function send(accept: boolean) {
  busy.value = true
  failed.value = ''
  try {
    const { data, error } = await api.POST('/api/shelf/table', { body: { text: text.value, accept } })
    preview.value = data ?? null
    failed.value = error?.message ?? ''
    if (data?.accepted) {
      text.value = ''
      preview.value = null
      emit('taken')
      emit('close')
    }
  } catch {
    failed.value = `${AWAY} Nothing was changed.`
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :open="open" title="Take in a table of parts" wide @close="$emit('close')">
    <label class="mb-1 block text-dim" for="shelf-csv">CSV file; the first line names the columns; the shelf’s own CSV shows them</label>
    <input id="shelf-csv" type="file" accept=".csv,text/csv" class="field py-2" @change="chosen" />
    <p v-if="busy" class="mt-3 text-dim" role="status">Reading …</p>
    <ToneNote v-if="failed" tone="bad" class="mt-3" role="alert">{{ failed }}</ToneNote>
    <TablePreview v-if="preview" :preview="preview" :busy="busy" @take="send(true)" />
  </Sheet>
</template>
