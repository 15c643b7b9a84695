<script setup lang="ts">
import { useDebounceFn, useEventListener } from '@vueuse/core'
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, AWAY, type Schemas } from '../api/client'
import { stageFor } from '../stages/registry'
import { useReference } from '../state/useReference'
import { useShopEvents } from '../state/useShopEvents'
import { useTheme } from '../state/useTheme'
import FigureValue from '../ui/FigureValue.vue'
import { colourOf, signWord, sizeOf, toneOf } from '../ui/format'
import StageMark from '../ui/StageMark.vue'
import WhoIsHere from '../app/WhoIsHere.vue'
import { useMe } from '../state/useMe'
import FileSheet from './FileSheet.vue'
import HowToRead from './HowToRead.vue'
import KeepScale from './KeepScale.vue'
import NewJobSheet from './NewJobSheet.vue'

type Bay = Schemas['Bay']
const router = useRouter()
const theme = useTheme()
const reference = useReference()
const board = ref<Schemas['Board'] | null>(null)
const failed = ref('')
const filter = ref('')
const order = ref<'bay' | 'name' | 'newest' | 'oldest' | 'changed'>('bay')
const waiting = ref(false)
const due = shallowRef<Schemas['DueList'] | null>(null)
const making = ref(false)
const importing = ref(false)
const said = ref('')
const removed = ref<{ id: string; name: string } | null>(null)
document.title = 'Bay board · Miser'

let turn = 0
/** The board's first page, or the next one below what is shown. */
async function fetchBoard(further = false) {
  failed.value = ''
  const mine = ++turn
  const from = further ? bays.value.length : 0
  try {
    const query = { only: filter.value.trim() || undefined, order: order.value, waiting: waiting.value ? ('1' as const) : undefined, from }
    const { data, error } = await api.GET('/api/jobs', { params: { query } })
    if (mine !== turn) return
    if (data) board.value = further ? { ...data, jobs: [...bays.value, ...data.jobs] } : data
    else failed.value = (error as { message?: string } | undefined)?.message ?? 'The board could not be read.'
  } catch {
    if (mine === turn) failed.value = `${AWAY} Is it still running?`
  }
}
/** What falls due stands beside the board; where it can't be read, the board says so by itself. */
async function fetchDue() {
  const { data } = await api.GET('/api/rechecks').catch(() => ({ data: undefined }))
  if (data) due.value = data
}
onMounted(() => {
  void fetchBoard()
  void fetchDue()
})
const fetchSoon = useDebounceFn(() => fetchBoard(), 100, { maxWait: 500 })
useShopEvents((event) => {
  if (event.windows) return
  void fetchSoon()
  void fetchDueSoon()
})
const fetchDueSoon = useDebounceFn(() => fetchDue(), 500, { maxWait: 3000 })
watch(
  [filter, order, waiting],
  useDebounceFn(() => fetchBoard(), 120),
)
const bays = computed(() => board.value?.jobs ?? [])
const filtering = computed(() => filter.value.trim() !== '' || waiting.value)
const urgent = computed(() => (due.value?.rechecks ?? []).filter((r) => r.standing === 'overdue' || r.standing === 'due'))
const dueWords = computed(() => {
  const { overdue = 0, due: today = 0, soon = 0 } = due.value ?? {}
  const many = (n: number, what: string) => (n ? `${n} ${what}` : '')
  return `Rechecks: ${[many(overdue, 'overdue'), many(today, 'due today'), many(soon, 'within a fortnight')].filter(Boolean).join(', ')}`
})
const left = computed(() => (board.value?.count ?? 0) - bays.value.length)
const far = computed(() => Math.max(2, ...bays.value.flatMap((j) => [Math.abs(j.before.value ?? 0), Math.abs(j.after.value ?? 0)])))

function goNext(bay: Bay) {
  const params = { id: bay.id, subject: bay.next?.subject }
  void router.push({ name: bay.next?.stage ?? stageFor('opening'), params })
}

/** Does something to a machine; what was refused is said. */
async function doing(call: () => Promise<{ error?: { message: string } }>): Promise<boolean> {
  said.value = ''
  try {
    said.value = (await call()).error?.message ?? ''
  } catch {
    said.value = AWAY
  }
  if (!said.value) await fetchBoard()
  return !said.value
}
const path = (id: string) => ({ params: { path: { id } } })
async function remove(bay: Bay) {
  if (await doing(() => api.DELETE('/api/jobs/{id}', path(bay.id)))) removed.value = bay
}
const me = useMe()
const purging = ref('')
async function purge(id: string) {
  purging.value = ''
  if ((await doing(() => api.DELETE('/api/removed/{id}', path(id)))) && removed.value?.id === id) removed.value = null
}
async function restore(id: string) {
  if (await doing(() => api.POST('/api/jobs/{id}/restore', path(id)))) removed.value = null
}
useEventListener(window, 'miser:new', () => (making.value = true))
function find() {
  window.dispatchEvent(new Event('miser:find'))
}
</script>

<template>
  <div class="mx-auto max-w-[1240px] px-5 pb-10">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <h1 class="text-2xl">Bay board</h1>
      <span class="ml-auto flex flex-wrap items-center gap-2">
        <button type="button" class="btn btn-bare" @click="find"><span class="kbd">/</span> find</button>
        <button type="button" class="btn btn-bare" :aria-label="theme.dark.value ? 'Light theme' : 'Dark theme'" @click="theme.toggle">
          <span class="kbd">T</span> {{ theme.dark.value ? 'light' : 'dark' }}
        </button>
        <RouterLink class="btn btn-bare" to="/book">book</RouterLink>
        <RouterLink class="btn btn-bare" to="/drills">drills</RouterLink>
        <RouterLink class="btn btn-bare" to="/shelf">shelf</RouterLink>
        <RouterLink class="btn btn-bare" to="/suppliers">suppliers</RouterLink>
        <RouterLink class="btn btn-bare" to="/shop">shop</RouterLink>
        <template v-if="me.mayChange">
          <button type="button" class="btn" @click="importing = true">Open a file</button>
          <button type="button" class="btn btn-main" @click="making = true">New machine</button>
        </template>
      </span>
    </header>
    <main id="main" tabindex="-1" class="outline-none">
      <HowToRead v-if="board" />
      <p v-if="failed" class="my-6 border-l-4 border-brick bg-brick-soft p-4" role="alert">
        {{ failed }} Nothing was lost. <button type="button" class="btn ml-3" @click="fetchBoard()">Try again</button>
      </p>
      <p v-else-if="!board" class="p-8 text-dim" role="status">Reading the board …</p>
      <p v-if="said" class="my-3 border-l-4 border-brick bg-brick-soft p-3" role="alert">{{ said }}</p>
      <p v-if="removed" class="my-3 flex items-center gap-3 border-l-4 border-edge bg-shade px-3 py-1" role="status">
        {{ removed.name }} was removed. <button type="button" class="btn" @click="restore(removed.id)">Bring it back</button>
      </p>
      <p
        v-if="due && (urgent.length || due.soon)"
        class="my-3 flex flex-wrap items-center gap-x-4 gap-y-1 border-l-4 px-3 py-1"
        :class="due.overdue ? 'border-brick bg-brick-soft' : 'border-edge bg-shade'"
        data-testid="due-strip"
      >
        <RouterLink
          to="/rechecks"
          class="inline-flex min-h-11 items-center font-semibold underline underline-offset-4"
          :class="due.overdue ? 'text-brick' : ''"
          >{{ dueWords }}</RouterLink
        >
        <RouterLink
          v-for="r in urgent.slice(0, 2)"
          :key="r.job + r.id"
          class="inline-flex min-h-11 items-center underline decoration-line underline-offset-4"
          :to="{ name: 'recheck', params: { id: r.job, recheck: r.id } }"
          >{{ r.machine }}, {{ r.words }}</RouterLink
        >
      </p>
      <div v-if="board && (board.count > 0 || filtering)" class="my-2 flex flex-wrap items-center gap-2">
        <label class="sr-only" for="bay-filter">Show only</label>
        <input id="bay-filter" v-model="filter" class="field w-52" placeholder="show only …" />
        <button type="button" class="btn" :aria-pressed="waiting" @click="waiting = !waiting">waiting for parts</button>
        <span class="px-2 text-dim max-[900px]:hidden">what each machine keeps, idling at a light at night</span>
        <label class="ml-auto flex items-center gap-2"
          ><span class="text-dim">by</span>
          <select v-model="order" class="field w-auto" aria-label="Order of the board">
            <option value="bay">bay</option>
            <option value="name">name</option>
            <option value="newest">newest ticket</option>
            <option value="oldest">oldest ticket</option>
            <option value="changed">last touched</option>
          </select></label
        >
      </div>
      <section v-if="board && board.count === 0 && !filtering" class="my-10 max-w-xl">
        <h2 class="text-xl">No machine in the bays.</h2>
        <p class="my-3">
          Begin with “New machine”: its name and how its lamps are fed, or one of the book that comes in again. Or open a job file from
          another shop.
        </p>
        <p class="my-3 text-dim">
          To look round first: <code class="num">bin/miser demo</code> serves a made-up fleet, with data of its own beside yours.
        </p>
        <button type="button" class="btn btn-main" @click="making = true">New machine</button>
      </section>
      <div
        v-if="board && (board.count > 0 || filtering)"
        class="grid grid-cols-[4rem_minmax(9rem,1fr)_14rem_15rem_20.5rem] gap-x-4 border-b border-line py-2 text-sm font-semibold text-dim max-[900px]:hidden"
        aria-hidden="true"
      >
        <span>bay</span><span>machine</span><span class="text-center">owes | keeps: came in (dashed), after</span
        ><span>after the change</span><span>ticket, next step</span>
      </div>
      <ul v-if="board && (board.count > 0 || filtering)">
        <li
          v-for="bay in bays"
          :key="bay.id"
          class="grid grid-cols-[4rem_minmax(9rem,1fr)_14rem_15rem_20.5rem] items-center gap-x-4 border-b border-line py-3 max-[900px]:grid-cols-[1fr_11rem_12.5rem] max-[560px]:grid-cols-1"
          data-testid="bay"
        >
          <span class="text-dim max-[900px]:hidden">{{ bay.bay ?? 'no bay' }}</span>
          <div class="min-w-0">
            <span class="mr-2 text-sm text-dim min-[901px]:hidden">{{ bay.bay }}</span>
            <RouterLink
              :to="{ name: stageFor('opening'), params: { id: bay.id } }"
              class="inline-flex min-h-11 items-center text-xl font-bold break-words underline decoration-line underline-offset-4 hover:decoration-brass"
              >{{ bay.name }}</RouterLink
            >
            <WhoIsHere :job="bay.id" :stages="bay.stages" />
            <p v-if="bay.waiting" class="text-sm"><span class="font-semibold text-brass">waits for</span> {{ bay.waiting }}</p>
            <p v-for="f in bay.flags" :key="f.key + f.side" class="text-sm font-semibold text-brick" :title="`${f.text} ${f.cure ?? ''}`">
              {{ f.short }}
            </p>
          </div>
          <div>
            <KeepScale
              :before="bay.before.value"
              :after="bay.after.value"
              :tones="[bay.verdict_before, bay.verdict].map(colourOf)"
              :far="far"
            />
          </div>
          <div>
            <span class="block text-[1.75rem] leading-tight font-bold" :class="toneOf(bay.verdict)">
              <span class="block text-lg leading-none">{{ signWord(bay.after) }}</span>
              <FigureValue :figure="sizeOf(bay.after)" name="Kept after" sigma />
            </span>
            <span class="block text-sm text-dim">
              {{ bay.verdict ? reference.verdict(bay.verdict) : (bay.after.reason ?? 'unknown') }}; came in
              <FigureValue :figure="bay.before" name="Kept before" sign />
            </span>
          </div>
          <div class="flex items-center justify-end gap-2 max-[900px]:col-span-3 max-[560px]:col-span-1">
            <span
              class="grid shrink-0 grid-cols-5 gap-1 text-dim max-[1100px]:hidden"
              :title="bay.stages.map((s) => `${s.label}: ${s.state}`).join(', ')"
            >
              <StageMark v-for="s in bay.stages" :key="s.stage" :state="s.state" :class="s.state === 'stale' ? 'text-brick' : ''" />
            </span>
            <button type="button" class="btn min-w-0 flex-1 text-sm" @click="goNext(bay)">
              <span><span class="block text-dim">next</span>{{ bay.next ? bay.next.text : 'nothing missing' }}</span>
            </button>
            <button v-if="me.mayChange" type="button" class="btn btn-bare" :aria-label="`Remove ${bay.name}`" @click="remove(bay)">
              ✕
            </button>
          </div>
        </li>
        <li v-if="bays.length === 0" class="p-6 text-dim">
          No machine in the bays matches<template v-if="filter.trim()"> “{{ filter }}”</template>. What went out is in
          <RouterLink class="underline" :to="{ name: 'book', query: { q: filter.trim() || undefined } }">the book</RouterLink>.
        </li>
        <li v-if="left > 0" class="py-3">
          <button type="button" class="btn" @click="fetchBoard(true)">{{ left }} more</button>
        </li>
      </ul>
      <details v-if="board && board.removed.length > 0" class="mt-6">
        <summary class="min-h-11 cursor-pointer py-2 text-dim">Removed machines ({{ board.removed.length }})</summary>
        <p v-for="r in board.removed" :key="r.id" class="flex items-center gap-3 border-b border-line py-1">
          <span
            >{{ r.name }}<span v-if="r.by" class="text-sm text-dim">, taken off by {{ r.by }}</span></span
          >
          <button type="button" class="btn ml-auto" @click="restore(r.id)">Bring it back</button>
          <button v-if="me.mayOwn" type="button" class="btn btn-bare" @click="purging = r.id">Throw away</button>
          <span v-if="purging === r.id" class="flex flex-wrap items-center gap-2 bg-brick-soft px-3" role="alert">
            With its history and pictures, for good?
            <button type="button" class="btn" @click="purge(r.id)">Yes, throw {{ r.name }} away</button>
            <button type="button" class="btn btn-bare" @click="purging = ''">No</button>
          </span>
        </p>
      </details>
    </main>
    <NewJobSheet :open="making" @close="making = false" />
    <FileSheet :open="importing" @close="importing = false" @taken="fetchBoard()" />
  </div>
</template>
