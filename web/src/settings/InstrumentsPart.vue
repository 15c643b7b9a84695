<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, AWAY, freshId, type FieldError, type Schemas } from '../api/client'

type Instrument = Schemas['Instrument']
const props = defineProps<{ instruments: Instrument[] }>()
const emit = defineEmits<{ saved: [shop: Schemas['Shop']] }>()

const KINDS = [
  { key: 'meter', label: 'bench meter, amps in series' },
  { key: 'light_meter', label: 'light meter' },
] as const
/** What is on screen: kept as typed until the shop takes it. */
const rows = ref<(Omit<Instrument, 'port'> & { port: string })[]>(props.instruments.map((i) => ({ ...i, port: String(i.port) })))
const errors = ref<FieldError[]>([])
const tried = ref<Record<string, Schemas['InstrumentTry'] | 'trying'>>({})

async function save() {
  errors.value = []
  const body = { instruments: rows.value.map((r) => ({ ...r, port: Number(r.port) })) }
  try {
    const { data, error } = await api.PATCH('/api/shop', { body })
    if (data) emit('saved', data)
    else errors.value = error?.fields ?? []
  } catch {
    errors.value = [{ at: '', field: 'Instruments', message: `not saved. ${AWAY}`, accepts: 'what you typed stays here' }]
  }
}
/** Another address is another question. */
function moved(row: (typeof rows.value)[number]) {
  row.confirmed = false
  void save()
}
const confirms = (id: string) => `/instruments/${id}/confirmed`
const asked = (id: string) => errors.value.find((e) => e.at === confirms(id))
/** What no row asks itself. */
const others = computed(() => errors.value.filter((e) => !rows.value.some((r) => e.at === confirms(r.id))))
function add() {
  rows.value.push({ id: freshId(), name: 'Bench meter', kind: 'meter', host: '', port: '5025' })
}
/** The one taken out last, and where it stood. */
const gone = ref<{ row: (typeof rows.value)[number]; place: number } | null>(null)
function remove(id: string) {
  const place = rows.value.findIndex((r) => r.id === id)
  gone.value = { row: rows.value[place], place }
  rows.value = rows.value.filter((r) => r.id !== id)
  void save()
}
function bringBack() {
  if (!gone.value) return
  // It stood there before: whoever brings it back means it.
  rows.value.splice(gone.value.place, 0, { ...gone.value.row, confirmed: true })
  gone.value = null
  void save()
}
async function attempt(id: string) {
  tried.value[id] = 'trying'
  try {
    const { data, error } = await api.POST('/api/instruments/{id}/try', { params: { path: { id } } })
    tried.value[id] = data ?? {
      ok: false,
      identity: null,
      simulated: false,
      took_ms: null,
      message: error?.message ?? 'not saved yet',
      remedy: 'Mend its address first.',
    }
  } catch {
    delete tried.value[id]
  }
}
function result(id: string) {
  const found = tried.value[id]
  return found === 'trying' || found === undefined ? null : found
}
</script>

<template>
  <section class="mt-6" aria-labelledby="instruments-head">
    <h2 id="instruments-head" class="mb-1 text-lg">Instruments</h2>
    <p class="mb-2 text-dim">Bench instruments that speak SCPI over the network. Miser speaks to these addresses and to no others.</p>
    <ul class="border-t border-line">
      <li v-for="r in rows" :key="r.id" class="border-b border-line py-3" data-testid="instrument">
        <div class="grid items-end gap-3 sm:grid-cols-[1fr_18rem] lg:grid-cols-[1fr_18rem_11rem_7rem_auto]">
          <label class="block"
            ><span class="mb-1 block text-dim">Name</span><input v-model="r.name" class="field" maxlength="60" @change="save"
          /></label>
          <label class="block"
            ><span class="mb-1 block text-dim">Kind</span>
            <select v-model="r.kind" class="field" @change="save">
              <option v-for="k in KINDS" :key="k.key" :value="k.key">{{ k.label }}</option>
            </select></label
          >
          <label class="block"
            ><span class="mb-1 block text-dim">Address</span
            ><input v-model="r.host" class="field num" placeholder="192.168.1.20" autocomplete="off" spellcheck="false" @change="moved(r)"
          /></label>
          <label class="block"
            ><span class="mb-1 block text-dim">Port</span><input v-model="r.port" class="field num" inputmode="numeric" @change="moved(r)"
          /></label>
          <span class="flex gap-1">
            <button type="button" class="btn" :disabled="tried[r.id] === 'trying'" @click="attempt(r.id)">Test</button>
            <button type="button" class="btn btn-bare" :aria-label="`Remove ${r.name}`" @click="remove(r.id)">✕</button>
          </span>
        </div>
        <p v-if="asked(r.id)" class="mt-2 text-brick first-letter:uppercase" role="alert">
          {{ asked(r.id)?.message }}. Accepted: {{ asked(r.id)?.accepts }}.
        </p>
        <label v-if="r.confirmed || asked(r.id)" class="flex min-h-11 items-center gap-2">
          <input v-model="r.confirmed" type="checkbox" class="size-5" @change="save" />
          This address is meant: {{ r.name }} is there.
        </label>
        <p v-if="tried[r.id] === 'trying'" class="mt-2 text-dim" role="status">Asking …</p>
        <p v-else-if="result(r.id)" class="mt-2" :class="result(r.id)?.ok ? 'text-moss' : 'text-brick'" role="status">
          <template v-if="result(r.id)?.ok"
            >Answers: <span class="num">{{ result(r.id)?.identity }}</span><b v-if="result(r.id)?.simulated">
              (simulated: it measures nothing)</b
            ></template
          >
          <template v-else>{{ r.name }} {{ result(r.id)?.message }}. {{ result(r.id)?.remedy }}</template>
        </p>
      </li>
    </ul>
    <p v-for="e in others" :key="e.at + e.message" class="mt-2 text-brick" role="alert">
      {{ e.field }}: {{ e.message }}. Accepted: {{ e.accepts }}.
    </p>
    <p v-if="gone" class="mt-3 flex items-center gap-3 border-l-4 border-edge bg-shade px-3 py-1" role="status">
      {{ gone.row.name }} was removed. <button type="button" class="btn" @click="bringBack">Bring it back</button>
    </p>
    <button type="button" class="btn mt-3" @click="add">Add an instrument</button>
  </section>
</template>
