<script setup lang="ts" generic="Preview extends Schemas['ShelfTable'] | Schemas['TablePreview'] | Schemas['PriceTable']">
import { ref, shallowRef, watch, type ShallowRef } from 'vue'
import { AWAY, type Schemas } from '../api/client'
import { decoded } from './decoded'
import Sheet from './Sheet.vue'
import TablePreview from './TablePreview.vue'
import ToneNote from './ToneNote.vue'

/** A CSV file looked over before it comes in: choose it, see its rows and what is wrong with them, take it. */
const props = defineProps<{
  open: boolean
  title: string
  hint: string
  /** Another value looks the same file over again. */
  kind?: string | null
  /** Sends the text, to be looked at or taken. */
  send: (text: string, accept: boolean) => Promise<{ data?: Preview; error?: { message: string } }>
}>()
const emit = defineEmits<{ close: []; taken: [taken: Preview] }>()
const text = ref('')
const preview: ShallowRef<Preview | null> = shallowRef(null)
const failed = ref('')
const busy = ref(false)
const readAs = ref('')

watch(
  () => props.kind,
  () => {
    preview.value = null
    failed.value = ''
    if (text.value && props.open) void look(false)
  },
)

/** Opened for something else: what was chosen before is no part of it. */
watch(
  () => props.open,
  (open) => {
    if (!open) return
    text.value = ''
    readAs.value = ''
    preview.value = null
    failed.value = ''
  },
)

async function chosen(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  const read = decoded(new Uint8Array(await file.arrayBuffer()))
  text.value = read.text
  readAs.value = read.as
  await look(false)
}

async function look(accept: boolean) {
  busy.value = true
  failed.value = ''
  try {
    const { data, error } = await props.send(text.value, accept)
    preview.value = data ?? null
    if (!data) failed.value = error?.message ?? 'That did not work.'
    if (data?.accepted) {
      text.value = ''
      preview.value = null
      emit('taken', data)
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
  <Sheet :open="open" :title="title" wide @close="$emit('close')">
    <slot />
    <label class="mb-1 block text-dim" for="table-file">{{ hint }}</label>
    <input id="table-file" type="file" accept=".csv,text/csv" class="field py-2" @change="chosen" />
    <p v-if="readAs && readAs !== 'UTF-8'" class="mt-2 text-dim" data-testid="read-as">
      Read as {{ readAs }}: look whether its letters are right.
    </p>
    <p v-if="busy" class="mt-3 text-dim" role="status">Reading …</p>
    <ToneNote v-if="failed" tone="bad" class="mt-3" role="alert">{{ failed }}</ToneNote>
    <TablePreview v-if="preview" :preview="preview" :busy="busy" @take="look(true)" />
  </Sheet>
</template>
