<script setup lang="ts">
import { ref, shallowRef } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import FailNote from '../ui/FailNote.vue'
import { plain } from '../ui/format'
import ToneNote from '../ui/ToneNote.vue'

/** What goes to other shops, and what came from them: looked over, taken, taken back. */
defineProps<{ mayTake: boolean }>()
const emit = defineEmits<{ taken: [] }>()
const kept = shallowRef<Schemas['LearntExchange'] | null>(null)
const preview = shallowRef<Schemas['LearntPreview'] | null>(null)
const text = ref('')
const failed = ref('')
const busy = ref(false)

async function asked<T>(ask: () => Promise<{ data?: T; error?: { message: string } }>): Promise<T | undefined> {
  failed.value = ''
  try {
    const { data, error } = await ask()
    failed.value = error?.message ?? ''
    return data
  } catch {
    failed.value = AWAY
  }
}
async function fetch() {
  kept.value = (await asked(() => api.GET('/api/learnt/exchange'))) ?? kept.value
}
void fetch()
async function chosen(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  text.value = await file.text()
  await look(false)
}
async function look(accept: boolean) {
  busy.value = true
  preview.value = (await asked(() => api.POST('/api/learnt/file', { body: { text: text.value, accept } }))) ?? null
  busy.value = false
  if (preview.value?.batch) {
    preview.value = null
    text.value = ''
    await fetch()
    emit('taken')
  }
}
async function turn(batch: number, act: 'take_back' | 'bring_back') {
  kept.value =
    (await asked(() => api.POST('/api/learnt/batches/{id}/{act}', { params: { path: { id: String(batch), act } } }))) ?? kept.value
  emit('taken')
}
</script>

<template>
  <section class="my-8 border-t-2 border-line pt-4" aria-labelledby="exchange-head">
    <h2 id="exchange-head" class="text-xl">Shared between shops</h2>
    <p class="max-w-3xl text-dim">
      A file of sums: parts and models by name, how many were read, their mean and spread. No owner, no frame number, nothing that anybody
      wrote.
    </p>
    <div class="my-3 flex flex-wrap gap-2">
      <a class="btn" href="/api/learnt/file" download>Give what we have learnt</a>
      <label v-if="mayTake" class="btn cursor-pointer"
        >Look at another shop’s<input
          type="file"
          accept=".json,application/json"
          class="sr-only"
          data-testid="learnt-file"
          @change="chosen"
      /></label>
    </div>
    <p v-if="busy" class="text-dim" role="status">Reading …</p>
    <FailNote v-if="failed" :text="failed" />
    <ToneNote v-if="preview" :tone="preview.bad ? 'doubt' : 'plain'" class="my-3" data-testid="learnt-preview">
      <p class="font-semibold">
        {{ preview.good }} rows of {{ preview.shops.length }} {{ preview.shops.length === 1 ? 'shop' : 'shops' }} would come in<template
          v-if="preview.bad"
          >; {{ preview.bad }} can’t be believed and stay out</template
        >.
      </p>
      <p v-if="preview.older">{{ preview.older }} of the file are here already, as new or newer, or are our own.</p>
      <ul v-if="preview.errors.length" class="my-2 max-h-48 overflow-y-auto">
        <li v-for="e in preview.errors" :key="e.at + e.field" class="text-sm">
          <span class="num">{{ e.at }}</span> {{ e.field }}: {{ e.message }}. Accepted: {{ e.accepts }}.
        </li>
      </ul>
      <table class="sheet my-2 w-full text-sm">
        <tbody>
          <tr v-for="(r, i) in preview.sample" :key="i">
            <td>{{ r.subject }}</td>
            <td class="font-semibold">{{ r.label }}</td>
            <td>{{ r.what }} {{ r.item }}</td>
            <td class="r num">{{ plain(r.mean, 2) }}</td>
            <td class="r num">{{ r.n }} read</td>
          </tr>
        </tbody>
      </table>
      <button v-if="preview.good" type="button" class="btn btn-main" :disabled="busy" @click="look(true)">Take these</button>
      <button type="button" class="btn btn-bare" @click="preview = null">Leave it</button>
    </ToneNote>
    <ul v-if="kept?.batches.length">
      <li v-for="b in kept.batches" :key="b.batch" class="flex flex-wrap items-center gap-3 border-b border-line py-1">
        <span class="num">{{ b.taken_at.slice(0, 10) }}</span>
        <span class="mr-auto">
          {{ b.rows }} rows of {{ b.shops }} {{ b.shops === 1 ? 'shop' : 'shops'
          }}<span v-if="b.gone_at" class="text-dim">, taken back</span>
        </span>
        <template v-if="mayTake">
          <button v-if="!b.gone_at" type="button" class="btn" @click="turn(b.batch, 'take_back')">Take it back</button>
          <button v-else type="button" class="btn" @click="turn(b.batch, 'bring_back')">Bring it back</button>
        </template>
      </li>
    </ul>
  </section>
</template>
