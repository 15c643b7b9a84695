<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, AWAY } from '../api/client'
import YearsChart from '../charts/YearsChart.vue'
import { stageFor } from '../stages/registry'
import { provideEditor } from '../state/useEditor'
import { useMe } from '../state/useMe'
import { useReference } from '../state/useReference'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import FigureValue from '../ui/FigureValue.vue'
import { money, plain, signWord, sizeOf, toneOf } from '../ui/format'
import PickField from '../ui/PickField.vue'
import QuantityField from '../ui/QuantityField.vue'
import TextField from '../ui/TextField.vue'
import ToneNote from '../ui/ToneNote.vue'
import RecheckRows from './RecheckRows.vue'
import { useMachine } from './useMachine'

/** One machine: what it is, every job on it, what was read over the years, what falls due. */
const route = useRoute()
const router = useRouter()
const me = useMe()
const reference = useReference()
void reference.fetchOnce()
const id = computed(() => String(route.params.id))
const { book, failed, editor, fetch, gone } = useMachine(id)
provideEditor(editor)
const machine = computed(() => book.value?.machine)
watch(machine, (m) => (document.title = m ? `${m.name}, the book · Miser` : 'The book · Miser'))
const said = ref('')
const opening = ref(false)

async function again() {
  opening.value = true
  said.value = ''
  try {
    const { data, error } = await api.POST('/api/jobs', { body: { name: machine.value!.name, machine: id.value } })
    if (data) await router.push({ name: stageFor('opening'), params: { id: data.document.id } })
    else said.value = error?.fields?.[0] ? `${error.message} ${error.fields[0].message}.` : (error?.message ?? '')
  } catch {
    said.value = AWAY
  } finally {
    opening.value = false
  }
}
async function join(other: string) {
  const { error } = await api.POST('/api/machines/{id}/join', { params: { path: { id: id.value } }, body: { with: other } })
  said.value = error?.message ?? ''
  await fetch()
}
const done = computed(() => (book.value?.rechecks ?? []).filter((r) => r.done_on))
const odd = computed(() => done.value.filter((r) => r.lamps.some((l) => l.saw && l.saw !== 'ok')).length)
const leaving = ref(false)
const goneTo = ref('')
const goneOn = ref(new Date().toISOString().slice(0, 10))
async function leave() {
  leaving.value = false
  await gone(goneOn.value, goneTo.value.trim() || null)
}
const open = (job: string) => void router.push(`/job/${job}`)
const shownSeries = computed(() => book.value?.series ?? [])
const counter = (km: number | null | undefined, hours: number | null | undefined) =>
  [km !== null && km !== undefined ? `${plain(km, 0)} km` : '', hours !== null && hours !== undefined ? `${plain(hours, 0)} h` : '']
    .filter(Boolean)
    .join(', ')
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/book" class="btn btn-bare">‹ the book</RouterLink>
      <h1 class="mr-auto text-2xl">{{ machine?.name ?? 'Machine' }}</h1>
      <RouterLink v-if="machine?.fleet" class="btn btn-bare" :to="{ name: 'fleet', query: { owner: machine.fleet } }">its fleet</RouterLink>
      <RouterLink v-if="machine?.machine?.model" class="btn btn-bare" :to="{ name: 'learnt-model', query: { name: machine.machine.model } }"
        >its model</RouterLink
      >
      <RouterLink v-if="book?.open" class="btn" :to="`/job/${book.open}`">The ticket in the bay</RouterLink>
      <button v-else-if="me.mayChange && book" type="button" class="btn btn-main" :disabled="opening || !!machine?.gone_on" @click="again">
        New ticket on it
      </button>
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <FailNote v-if="said" :text="said" class="mt-3" />
    <p v-if="!book && !failed" class="p-4 text-dim" role="status">Opening the book …</p>
    <template v-if="book && machine">
      <ToneNote v-if="machine.gone_on" tone="plain" class="mt-4" data-testid="gone">
        Gone on {{ machine.gone_on }}<template v-if="machine.gone_to">, to {{ machine.gone_to }}</template
        >. What falls due on it rests.
        <button v-if="me.mayChange" type="button" class="btn ml-3" @click="gone(null, null)">It is here again</button>
      </ToneNote>
      <ToneNote v-for="t in book.twins" :key="t.id" tone="bad" class="mt-4" data-testid="twin">
        {{ t.name }} has this frame number as well: one machine has two books.
        <RouterLink class="underline underline-offset-4" :to="{ name: 'machine', params: { id: t.id } }">Look at the other</RouterLink>
        <button v-if="me.mayChange" type="button" class="btn ml-3" @click="join(t.id)">Put its jobs into this book</button>
      </ToneNote>
      <section class="my-4" aria-labelledby="machine-facts">
        <h2 id="machine-facts" class="sr-only">What it is</h2>
        <div class="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
          <TextField at="/name" label="Name" />
          <TextField at="/fleet" label="Fleet or owner" />
          <TextField at="/machine/model" label="Model" />
          <QuantityField at="/machine/year" label="Year" unit="" :step="1" />
          <TextField at="/machine/frame" label="Frame number" />
          <PickField at="/machine/kind" label="Kind" :options="reference.tables?.machine_kinds ?? []" />
          <QuantityField at="/machine/distance_km" label="Distance, last read" unit="km" :step="100" />
          <QuantityField at="/machine/hours" label="Engine hours, last read" unit="h" :step="1" />
        </div>
        <TextField at="/note" label="Notes of the machine" :lines="2" class="mt-3" />
        <div v-if="me.mayChange && !machine.gone_on" class="mt-2">
          <button v-if="!leaving" type="button" class="btn btn-bare" @click="leaving = true">Sold, or gone for good …</button>
          <form v-else class="flex flex-wrap items-end gap-3" @submit.prevent="leave">
            <label><span class="mb-1 block text-dim">Gone on</span><input v-model="goneOn" type="date" required class="field" /></label>
            <label
              ><span class="mb-1 block text-dim">To</span
              ><input v-model="goneTo" class="field" maxlength="80" placeholder="its new owner, the breaker’s …"
            /></label>
            <button type="submit" class="btn btn-main">It is gone</button>
            <button type="button" class="btn btn-bare" @click="leaving = false">No</button>
          </form>
        </div>
      </section>

      <section class="my-6" aria-labelledby="machine-jobs">
        <h2 id="machine-jobs" class="mb-2 text-xl">Jobs on it</h2>
        <div class="overflow-x-auto">
          <table class="sheet w-full">
            <thead>
              <tr>
                <th class="text-left">came in</th>
                <th class="text-left">went out</th>
                <th class="text-left">counter</th>
                <th class="r">kept, came in</th>
                <th class="r">after</th>
                <th class="r">parts</th>
                <th />
              </tr>
            </thead>
            <tbody>
              <tr v-for="j in book.jobs" :key="j.id" data-testid="machine-job">
                <td class="num whitespace-nowrap">{{ j.came_in }}</td>
                <td class="num whitespace-nowrap">
                  <span v-if="j.handed_at">{{ j.handed_at.slice(0, 10) }}</span><span v-else class="font-semibold text-brass">{{
                    j.bay ? `in ${j.bay}` : 'in the bay'
                  }}</span>
                </td>
                <td class="num whitespace-nowrap">{{ counter(j.distance_km, j.hours) }}</td>
                <td class="r whitespace-nowrap">
                  <FigureValue v-if="j.before" :figure="j.before" name="Kept before" sign />
                </td>
                <td class="r font-bold whitespace-nowrap" :class="toneOf(j.verdict)">
                  <template v-if="j.after"
                    >{{ signWord(j.after) }} <FigureValue :figure="sizeOf(j.after)" name="Kept after" sigma
                  /></template>
                </td>
                <td class="r num">
                  <span v-if="j.at_least" class="block text-sm text-brick">at least</span>{{ j.cents || j.at_least ? money(j.cents) : '' }}
                </td>
                <td class="r"><RouterLink class="btn btn-bare" :to="`/job/${j.id}`">open</RouterLink></td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>

      <section class="my-6" aria-labelledby="machine-due">
        <h2 id="machine-due" class="mb-2 text-xl">To be looked at again</h2>
        <EmptyBox v-if="book.rechecks.length === 0">Nothing: what was fitted asks for it when the machine is handed over.</EmptyBox>
        <template v-else>
          <RecheckRows :rows="book.rechecks.filter((r) => !r.done_on)" />
          <details v-if="done.length">
            <summary class="min-h-11 cursor-pointer py-2 text-dim">
              {{ done.length }} done<template v-if="odd">, {{ odd }} with something found</template>
            </summary>
            <RecheckRows :rows="done" />
          </details>
        </template>
      </section>

      <section class="my-6" aria-labelledby="machine-years">
        <h2 id="machine-years" class="mb-2 text-xl">Read over the years</h2>
        <EmptyBox v-if="shownSeries.length === 0"
          >Nothing was measured on it yet. Readings of its jobs stand here, with the years between.</EmptyBox
        >
        <div class="grid gap-x-8 gap-y-4 min-[900px]:grid-cols-2">
          <div v-for="s in shownSeries" :key="s.what + s.words" class="min-w-0 border-b border-line pb-2" data-testid="series">
            <p class="flex flex-wrap items-baseline gap-x-3">
              <span class="font-semibold">{{ s.words }}</span>
              <span class="text-sm" :class="s.drifts ? 'font-semibold text-brick' : 'text-dim'">{{ s.drift }}</span>
            </p>
            <YearsChart v-if="s.rows.length > 1" :rows="s.rows" :unit="s.unit" :label="s.words" :trend="s.trend" @open="open" />
            <p v-else class="num">
              {{ plain(s.rows[0].value ?? 0, 2) }} {{ s.unit }}
              <RouterLink class="underline underline-offset-4" :to="`/job/${s.rows[0].job}`">{{
                s.rows[0].on || s.rows[0].name
              }}</RouterLink>
            </p>
          </div>
        </div>
      </section>
    </template>
  </main>
</template>
