<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, AWAY, type Schemas } from '../../api/client'
import WarmUpChart from '../../charts/WarmUpChart.vue'
import { useJob } from '../../state/useJob'
import { plain } from '../../ui/format'
import { decoded } from '../../ui/decoded'
import Sheet from '../../ui/Sheet.vue'
import ToneNote from '../../ui/ToneNote.vue'

/** A meter's own log as a series of one load: columns are matched before anything comes in. */
const props = defineProps<{ open: boolean; name: string; loadId: string; choiceId?: string }>()
const emit = defineEmits<{ close: [] }>()
const job = useJob()
const text = ref('')
const mapping = ref<Schemas['LogMapping']>({})
const preview = ref<Schemas['LogPreview'] | null>(null)
const failed = ref('')
const busy = ref(false)
watch(
  () => props.open,
  () => {
    text.value = ''
    mapping.value = {}
    preview.value = null
    failed.value = ''
  },
)

async function send(accept: boolean) {
  busy.value = true
  failed.value = ''
  try {
    const { data, error } = await api.POST('/api/jobs/{id}/log', {
      params: { path: { id: job.id } },
      body: {
        text: text.value,
        load: props.loadId,
        choice: props.choiceId,
        mapping: mapping.value,
        accept,
        revision: accept ? job.view?.revision : undefined,
      },
    })
    if (!data) return void (failed.value = error?.message ?? 'The file can’t be read.')
    preview.value = data
    mapping.value = data.mapping
    if (data.accepted && data.change) {
      job.apply(data.change)
      emit('close')
    }
  } catch {
    failed.value = `${AWAY} Nothing was changed.`
  } finally {
    busy.value = false
  }
}
async function chosen(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  if (!file) return
  mapping.value = {}
  text.value = decoded(new Uint8Array(await file.arrayBuffer())).text
  void send(false)
}
const TIMES = { s: 'seconds', ms: 'milliseconds', min: 'minutes', h: 'hours', clock: 'time of day' }
</script>

<template>
  <Sheet :open="open" :title="`A meter’s log for ${name}`" wide @close="$emit('close')">
    <label class="mb-1 block text-dim" for="log-file">Log file, a table with times and amps</label>
    <input id="log-file" type="file" accept=".csv,.txt,text/csv,text/plain" class="field py-2" @change="chosen" />
    <p v-if="busy" class="mt-3 text-dim" role="status">Reading …</p>
    <ToneNote v-if="failed" tone="bad" class="mt-3" role="alert">{{ failed }}</ToneNote>
    <div v-if="preview" class="mt-3" data-testid="log-preview">
      <div class="grid gap-3 sm:grid-cols-4">
        <label
          ><span class="mb-1 block text-dim">Times in</span>
          <select v-model.number="mapping.time_column" class="field" @change="send(false)">
            <option v-for="(c, i) in preview.columns" :key="i" :value="i">{{ c }}</option>
          </select></label
        >
        <label
          ><span class="mb-1 block text-dim">as</span>
          <select v-model="mapping.time_unit" class="field" @change="send(false)">
            <option v-for="(label, key) in TIMES" :key="key" :value="key">{{ label }}</option>
          </select></label
        >
        <label
          ><span class="mb-1 block text-dim">Amps in</span>
          <select v-model.number="mapping.value_column" class="field" @change="send(false)">
            <option v-for="(c, i) in preview.columns" :key="i" :value="i">{{ c }}</option>
          </select></label
        >
        <label
          ><span class="mb-1 block text-dim">as</span>
          <select v-model="mapping.value_unit" class="field" @change="send(false)">
            <option value="A">A</option>
            <option value="mA">mA</option>
          </select></label
        >
      </div>
      <p class="my-3">
        <span class="num font-bold">{{ preview.taken }}</span> of <span class="num">{{ preview.rows }}</span> rows are samples.
        <template v-if="preview.cold !== null">Cold {{ plain(preview.cold, 2) }} A.</template> {{ preview.words }} Nothing is taken in yet.
      </p>
      <ul v-if="preview.errors.length" class="mb-3 max-h-32 overflow-y-auto text-brick">
        <li v-for="e in preview.errors" :key="e.at">{{ e.field }}: {{ e.message }}. Accepted: {{ e.accepts }}.</li>
      </ul>
      <WarmUpChart :samples="preview.samples" :settled="preview.settled" :mean="null" live />
      <button type="button" class="btn btn-main mt-3" :disabled="busy || preview.taken === 0" @click="send(true)">
        Take in {{ preview.taken }} samples
      </button>
    </div>
  </Sheet>
</template>
