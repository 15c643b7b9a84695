<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, AWAY, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import Sheet from '../../ui/Sheet.vue'
import ToneNote from '../../ui/ToneNote.vue'

const KINDS = [
  { key: 'readings', label: 'Readings' },
  { key: 'loads', label: 'Loads' },
] as const
const CHANGES = { add: 'adds it', replace: 'changes it', same: 'says the same' }
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
    <div v-if="preview" class="mt-3">
      <p class="mb-2">
        <span class="num font-bold">{{ preview.good }}</span> rows good,
        <span class="num font-bold" :class="preview.bad ? 'text-brick' : ''">{{ preview.bad }}</span> bad. Nothing is taken in yet.
      </p>
      <div class="max-h-72 overflow-y-auto">
        <table class="sheet w-full text-sm" data-testid="csv-preview">
          <thead>
            <tr>
              <th>line</th>
              <th>what</th>
              <th>does</th>
              <th>wrong</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in preview.rows.slice(0, 300)" :key="r.line" :class="r.errors.length ? 'bg-brick-soft' : ''">
              <td class="num">{{ r.line }}</td>
              <td>{{ r.name }}</td>
              <td>{{ CHANGES[r.change] }}</td>
              <td>
                <span v-for="e in r.errors" :key="e.field + e.message" class="block"
                  >{{ e.field }}: {{ e.message }}. Accepted: {{ e.accepts }}.</span
                >
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <button type="button" class="btn btn-main mt-3" :disabled="busy || preview.good === 0" @click="send(true)">
        {{ preview.bad ? `Take in the ${preview.good} good rows, leave the bad out` : `Take in ${preview.good} rows` }}
      </button>
    </div>
  </Sheet>
</template>
