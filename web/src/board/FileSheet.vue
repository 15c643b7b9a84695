<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, AWAY, type FieldError, type Schemas } from '../api/client'
import { stageFor } from '../stages/registry'
import { useReference } from '../state/useReference'
import Sheet from '../ui/Sheet.vue'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: []; taken: [] }>()
const router = useRouter()
const reference = useReference()
const text = ref('')
const preview = ref<Schemas['FilePreview'] | null>(null)
const failed = ref('')
const errors = ref<FieldError[]>([])
const busy = ref(false)

async function chosen(event: Event) {
  const file = (event.target as HTMLInputElement).files?.[0]
  preview.value = null
  errors.value = []
  failed.value = ''
  if (!file) return
  const most = reference.tables?.job_file_most_bytes ?? 0
  if (file.size > most) {
    failed.value = `This file is ${Math.round(file.size / 1024 / 1024)} MB; at most ${Math.round(most / 1024 / 1024)} MB are taken. Nothing was changed.`
    return
  }
  text.value = await file.text()
  await send()
}

async function send(accept?: 'new' | 'over') {
  busy.value = true
  try {
    const { data, error } = await api.POST('/api/files', {
      body: { text: text.value, accept, revision: accept === 'over' ? (preview.value?.revision ?? undefined) : undefined },
    })
    if (data) {
      preview.value = data
      if (data.accepted) {
        emit('taken')
        emit('close')
        preview.value = null
        await router.push({ name: stageFor('opening'), params: { id: data.accepted } })
      }
    } else {
      errors.value = error?.fields ?? []
      failed.value = error?.message ?? 'That did not work.'
    }
  } catch {
    failed.value = `${AWAY} Nothing was changed.`
  } finally {
    busy.value = false
  }
}

function show(value: unknown) {
  return value === null || value === undefined ? 'nothing' : typeof value === 'object' ? JSON.stringify(value).slice(0, 90) : String(value)
}
</script>

<template>
  <Sheet :open="open" title="Open a job file" wide @close="$emit('close')">
    <label class="mb-1 block text-dim" for="job-file">Job file (.miser.json)</label>
    <input id="job-file" type="file" accept=".json,application/json" class="field py-2" @change="chosen" />
    <p v-if="busy" class="mt-3 text-dim" role="status">Reading …</p>
    <div v-if="failed" class="mt-3 border-l-4 border-brick bg-brick-soft p-3" role="alert">
      <p class="font-semibold">{{ failed }}</p>
      <p v-for="e in errors" :key="e.at + e.message">{{ e.field }} ({{ e.at }}): {{ e.message }}. Accepted: {{ e.accepts }}.</p>
    </div>
    <div v-if="preview" class="mt-4">
      <p class="text-lg font-bold">{{ preview.name }}</p>
      <p v-if="preview.migrated_from">Written by an earlier Miser (version {{ preview.migrated_from }}); brought forward.</p>
      <p v-if="preview.unknown.length">
        Not understood, but kept: <span class="num">{{ preview.unknown.slice(0, 12).join(', ') }}</span>
      </p>
      <template v-if="preview.exists">
        <p class="my-2">
          This job is here already.
          {{ preview.differences.length === 0 ? 'The file says the same.' : `The file differs in ${preview.differences.length} places:` }}
        </p>
        <div v-if="preview.differences.length" class="max-h-64 overflow-y-auto">
          <table class="sheet w-full text-sm">
            <thead>
              <tr>
                <th>where</th>
                <th>here</th>
                <th>in the file</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="d in preview.differences" :key="d.at">
                <td class="num break-all">{{ d.at }}</td>
                <td>{{ show(d.from) }}</td>
                <td>{{ show(d.to) }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </template>
      <div class="mt-4 flex flex-wrap gap-3">
        <button type="button" class="btn btn-main" :disabled="busy" @click="send('new')">
          {{ preview.exists ? 'Take in as another job' : 'Take it in' }}
        </button>
        <button v-if="preview.exists && preview.differences.length" type="button" class="btn" :disabled="busy" @click="send('over')">
          Lay it over the job here
        </button>
      </div>
    </div>
  </Sheet>
</template>
