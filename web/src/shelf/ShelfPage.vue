<script setup lang="ts">
import { computed, nextTick, onMounted, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, AWAY, freshId, type Schemas } from '../api/client'
import PartFields from '../parts/PartFields.vue'
import { useShelf } from '../parts/useShelf'
import { provideEditor } from '../state/useEditor'
import { useReference } from '../state/useReference'
import FailNote from '../ui/FailNote.vue'
import { minutes, money } from '../ui/format'
import { useShelfPart } from './useShelfPart'
import OffersPart from './OffersPart.vue'
import ShelfTable from './ShelfTable.vue'

/** The shop's own parts: found, added, edited, copied, retired; with their pictures. */
type Kept = Schemas['ShelfPart']
const route = useRoute()
const router = useRouter()
const reference = useReference()
const shelf = useShelf()
const parts = ref<Kept[] | null>(null)
const failed = ref('')
const find = ref('')
const base = ref('')
const what = ref<'lamps' | 'small' | 'all'>('lamps')
const retired = ref(false)
const importing = ref(false)
const gone = ref<Kept | null>(null)
const fields = ref<HTMLElement>()
document.title = 'Shelf · Miser'

async function fetchShelf() {
  try {
    await reference.fetchOnce()
    const { data, error } = await api.GET('/api/parts')
    if (data) parts.value = data.parts
    failed.value = error ? 'The shelf could not be read.' : ''
  } catch {
    failed.value = AWAY
  }
}
onMounted(fetchShelf)

const words = computed(() => find.value.toLowerCase().split(/\s+/).filter(Boolean))
const bases = computed(() =>
  [...new Set((parts.value ?? []).map((p) => p.part.base).filter((b): b is NonNullable<typeof b> => !!b))].sort(),
)
const shown = computed(() =>
  (parts.value ?? []).filter(
    (p) =>
      (retired.value || !p.retired) &&
      (!base.value || p.part.base === base.value) &&
      (words.value.length > 0 ||
        p.id === route.params.part ||
        what.value === 'all' ||
        (what.value === 'small') === (p.part.use !== undefined)) &&
      words.value.every((w) => [p.part.name, p.part.base, p.part.note, ...p.draws].join(' ').toLowerCase().includes(w)),
  ),
)
const starters = computed(() => (parts.value ?? []).filter((p) => p.starter).length)
const current = computed(() => parts.value?.find((p) => p.id === route.params.part))

function saved(part: Kept) {
  parts.value = (parts.value ?? []).map((p) => (p.id === part.id ? part : p))
}
const { editor, failed: unsent, flush } = useShelfPart(current, saved)
provideEditor(editor)
watch(() => route.params.part, flush)

async function open(id: string | undefined) {
  await router.replace({ name: 'shelf', params: { part: id ?? '' } })
  await nextTick()
  const name = fields.value?.querySelector<HTMLInputElement>('input')
  fields.value?.scrollIntoView({ block: 'nearest' })
  name?.focus()
}
async function add(part: Kept['part']) {
  const kept = await shelf.asked(() => api.POST('/api/parts', { body: { part } }))
  if (!kept) return
  parts.value = [kept, ...(parts.value ?? [])]
  await open(kept.id)
}
const fresh = () =>
  add({
    name: 'New part',
    base: (base.value || undefined) as Kept['part']['base'],
    functions: [{ id: freshId(), figures: [{ id: freshId(), origin: 'maker' }] }],
  })
const copy = (part: Kept) => add({ ...part.part, name: `${part.part.name}, copy`.slice(0, 80) })
async function retire(part: Kept) {
  const kept = await shelf.asked(() =>
    api.PATCH('/api/parts/{id}', { params: { path: { id: part.id } }, body: { retired: !part.retired } }),
  )
  if (kept) saved(kept)
}
async function remove(part: Kept) {
  const done = await shelf.asked(async () => ({
    data: true,
    ...(await api.DELETE('/api/parts/{id}', { params: { path: { id: part.id } } })),
  }))
  if (done === undefined && shelf.failed) return
  parts.value = (parts.value ?? []).filter((p) => p.id !== part.id)
  gone.value = part
  await open(undefined)
}
async function bringBack() {
  const part = gone.value
  gone.value = null
  if (part) await add(part.part)
}
async function clear() {
  const left = await shelf.asked(() => api.DELETE('/api/parts'))
  if (left) parts.value = left.parts
}
async function picture(event: Event, part: Kept) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  await shelf.asked(async () => {
    const response = await fetch(`/api/parts/${part.id}/picture`, {
      method: 'POST',
      headers: { 'Content-Type': file.type || 'image/jpeg' },
      body: file,
    })
    const body = await response.json()
    if (response.ok) saved(body as Kept)
    return response.ok ? { data: body as Kept } : { error: body as Schemas['Refusal'] }
  })
}
</script>

<template>
  <div class="mx-auto max-w-[1180px] px-5 pb-12">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ bay board</RouterLink>
      <h1 class="mr-auto text-2xl">Shelf</h1>
      <a class="btn" href="/api/shelf/file" download>Shelf as CSV</a>
      <button type="button" class="btn" @click="importing = true">Take in CSV</button>
      <button type="button" class="btn btn-main" @click="fresh">New part</button>
    </header>
    <main id="main" tabindex="-1" class="outline-none">
      <FailNote :text="failed || shelf.failed || unsent" />
      <p v-if="!parts && !failed" class="p-8 text-dim" role="status">Reading the shelf …</p>
      <div v-if="starters" class="my-3 flex flex-wrap items-center gap-3 border-l-4 border-edge bg-shade px-3 py-1" data-testid="starters">
        <span>{{ starters }} made-up parts to start with. No shop sells them, and they have no price: edit one and it is yours.</span>
        <button type="button" class="btn ml-auto" @click="clear">Throw them away</button>
      </div>
      <p v-if="gone" class="my-3 flex items-center gap-3 border-l-4 border-edge bg-shade px-3 py-1" role="status">
        {{ gone.part.name }} was taken off the shelf. <button type="button" class="btn" @click="bringBack">Bring it back</button>
      </p>
      <div v-if="parts" class="my-3 flex flex-wrap items-center gap-3">
        <label class="sr-only" for="find-part">Find a part</label>
        <input id="find-part" v-model="find" type="search" class="field max-w-72" placeholder="find a part" autocomplete="off" />
        <label class="sr-only" for="part-what">What kind</label>
        <select id="part-what" v-model="what" class="field w-52">
          <option value="lamps">lamps and boxes</option>
          <option value="small">small parts</option>
          <option value="all">everything</option>
        </select>
        <label class="sr-only" for="part-base">Only of this base</label>
        <select id="part-base" v-model="base" class="field w-44">
          <option value="">every base</option>
          <option v-for="b in bases" :key="b" :value="b">{{ b }}</option>
        </select>
        <label class="flex min-h-11 items-center gap-2"
          ><input v-model="retired" type="checkbox" class="h-5 w-5 accent-brass" /> retired ones too</label
        >
      </div>
      <div v-if="parts" class="grid gap-6 min-[1000px]:grid-cols-[24rem_minmax(0,1fr)]">
        <ol
          class="border-t border-line min-[1000px]:max-h-[78vh] min-[1000px]:overflow-y-auto max-[999px]:max-h-80 max-[999px]:overflow-y-auto"
          aria-label="Parts"
        >
          <li v-for="p in shown" :key="p.id">
            <button
              type="button"
              class="flex min-h-14 w-full items-center gap-3 border-b border-line px-2 text-left"
              :class="current?.id === p.id ? 'bg-shade' : 'hover:bg-shade'"
              :aria-current="current?.id === p.id"
              @click="open(p.id)"
            >
              <span class="min-w-0 flex-1">
                <span class="block font-semibold" :class="p.retired ? 'text-dim line-through' : ''">{{ p.part.name }}</span>
                <span class="block text-sm text-dim">{{ [p.part.base, ...p.draws].filter(Boolean).join(' · ') }}</span>
              </span>
              <span class="num shrink-0 text-right text-sm">
                {{ money(p.cents)
                }}<span class="block text-dim">{{ p.part.use ? `${p.pieces} here` : `${minutes(p.part.minutes)} min` }}</span>
              </span>
            </button>
          </li>
          <li v-if="shown.length === 0" class="p-4 text-dim">
            {{
              parts.length
                ? 'No part matches. Look among every base, or the retired ones.'
                : 'The shelf is empty. Put the parts you fit on it: each once.'
            }}
          </li>
        </ol>
        <section v-if="current" ref="fields" :key="current.id" :aria-label="current.part.name" class="min-w-0">
          <div class="mb-3 flex flex-wrap items-center gap-2">
            <h2 class="mr-auto text-xl">{{ current.part.name }}</h2>
            <button type="button" class="btn" @click="copy(current)">Copy</button>
            <button type="button" class="btn" :aria-pressed="current.retired" @click="retire(current)">
              {{ current.retired ? 'Offer it again' : 'Retire' }}
            </button>
            <button type="button" class="btn btn-bare" @click="remove(current)">Take it off the shelf</button>
          </div>
          <PartFields at="/part" :part="current.part" head />
          <OffersPart :id="current.id" class="mt-4" @changed="fetchShelf" />
          <p class="mt-2">
            <RouterLink
              class="inline-flex min-h-11 items-center underline underline-offset-4"
              :to="{ name: 'learnt-part', query: { name: current.part.name, shelf: current.id } }"
              >What the shop has learnt of it</RouterLink
            >
          </p>
          <div class="mt-4 flex flex-wrap items-end gap-4">
            <img
              v-if="current.picture"
              :src="`/api/parts/${current.id}/picture?${current.picture}`"
              :alt="current.part.name"
              class="max-h-56 max-w-full border border-line"
            />
            <label class="btn">
              {{ current.picture ? 'Another picture' : 'Add a picture' }}
              <input
                type="file"
                accept="image/jpeg,image/heic"
                class="sr-only"
                :aria-label="`Picture of ${current.part.name}`"
                @change="picture($event, current!)"
              />
            </label>
          </div>
        </section>
        <p v-else class="p-4 text-dim">
          Pick a part to see and edit it. What is edited here changes no job: a job keeps the part as it was fitted.
        </p>
      </div>
    </main>
    <ShelfTable :open="importing" @close="importing = false" @taken="fetchShelf" />
  </div>
</template>
