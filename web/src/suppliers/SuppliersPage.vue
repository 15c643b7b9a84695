<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, AWAY, freshId, type Schemas } from '../api/client'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import { money } from '../ui/format'
import ToneNote from '../ui/ToneNote.vue'
import LooseField from '../ui/LooseField.vue'
import MoneyPart from './MoneyPart.vue'
import PriceTable from './PriceTable.vue'

/** Whom the shop buys from, on what terms, at what prices. */
type Supplier = Schemas['Supplier']
const route = useRoute()
const router = useRouter()
const kept = shallowRef<Schemas['Suppliers'] | null>(null)
const failed = ref('')
const importing = ref(false)
const word = ref('')
const from = ref(0)
const page = shallowRef<Schemas['PricePage'] | null>(null)
document.title = 'Suppliers · Miser'

const current = computed(
  () => kept.value?.suppliers.find((s) => s.supplier.id === route.params.supplier) ?? kept.value?.suppliers[0] ?? null,
)

type Answer<T> = {
  data?: T
  error?: { message: string; kept?: string | null; fields?: { field: string; message: string; accepts?: string | null }[] }
}
async function asked<T>(ask: () => Promise<Answer<T>>): Promise<T | undefined> {
  failed.value = ''
  try {
    const { data, error } = await ask()
    const first = error?.fields?.[0]
    if (error) failed.value = first ? `${first.field}: ${first.message}. Accepted: ${first.accepts}.` : error.message
    return data
  } catch {
    failed.value = AWAY
  }
}
async function fetchAll() {
  const data = await asked(() => api.GET('/api/suppliers'))
  if (data) kept.value = data
}
async function fetchPage() {
  const id = current.value?.supplier.id
  if (!id) return void (page.value = null)
  const data = await asked(() =>
    api.GET('/api/suppliers/{id}/prices', { params: { path: { id }, query: { word: word.value, from: String(from.value) } } }),
  )
  if (data) page.value = data
}
onMounted(fetchAll)
watch([() => current.value?.supplier.id, word], () => {
  from.value = 0
  void fetchPage()
})

async function put(supplier: Omit<Supplier, 'id'> & { id?: string }) {
  const data = await asked(() => api.POST('/api/suppliers', { body: { supplier } }))
  if (data) kept.value = data
  return data
}
function change(key: string, value: unknown) {
  if (!current.value) return
  const next = { ...current.value.supplier, [key]: value } as Record<string, unknown>
  if (value === undefined || value === '') delete next[key]
  void put(next as Supplier)
}
async function add() {
  const names = kept.value?.suppliers.map((s) => s.supplier.name) ?? []
  let name = 'New supplier'
  for (let n = 2; names.includes(name); n++) name = `New supplier ${n}`
  const data = await put({ name, discounts: [] })
  const made = data?.suppliers.find((s) => s.supplier.name === name)
  if (made) await router.replace({ name: 'suppliers', params: { supplier: made.supplier.id } })
}
async function remove(supplier: Supplier) {
  await asked(async () => ({ data: true, ...(await api.DELETE('/api/suppliers/{id}', { params: { path: { id: supplier.id } } })) }))
  await fetchAll()
}
const discounts = computed(() => current.value?.supplier.discounts ?? [])
function discount(id: string, changed: Record<string, unknown> | null) {
  change(
    'discounts',
    discounts.value.flatMap((d) => (d.id !== id ? [d] : changed ? [{ ...d, ...changed }] : [])),
  )
}
const send = (text: string, accept: boolean) =>
  api.POST('/api/suppliers/{id}/table', { params: { path: { id: current.value!.supplier.id } }, body: { text, accept } })
async function taken() {
  await fetchAll()
  await fetchPage()
}
function turn(by: number) {
  from.value = Math.max(0, from.value + by)
  void fetchPage()
}
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ bay board</RouterLink>
      <h1 class="mr-auto text-2xl">Suppliers and prices</h1>
      <button type="button" class="btn btn-main" @click="add">Add a supplier</button>
    </header>
    <FailNote :text="failed" class="mt-3" />
    <template v-if="kept">
      <MoneyPart :money="kept.money" class="my-4" @saved="fetchAll" />
      <ToneNote v-if="kept.low.length" tone="doubt" class="mb-4" data-testid="low">
        To be bought again:
        <template v-for="(l, i) in kept.low" :key="l.id"
          >{{ i ? ', ' : '' }}<RouterLink class="underline" :to="{ name: 'shelf', params: { part: l.id } }">{{ l.name }}</RouterLink> ({{
            l.pieces
          }}
          left)</template
        >
      </ToneNote>
      <EmptyBox v-if="!current"
        >No suppliers yet. A supplier has terms and a price list; parts of the shelf are linked to its articles.</EmptyBox
      >
      <div v-else class="grid gap-6 min-[1000px]:grid-cols-[16rem_minmax(0,1fr)]">
        <ol class="border-t border-line" aria-label="Suppliers">
          <li v-for="s in kept.suppliers" :key="s.supplier.id">
            <RouterLink
              class="flex min-h-14 items-center gap-2 border-b border-line px-2"
              :class="s.supplier.id === current.supplier.id ? 'bg-shade' : 'hover:bg-shade'"
              :aria-current="s.supplier.id === current.supplier.id"
              :to="{ name: 'suppliers', params: { supplier: s.supplier.id } }"
            >
              <span class="mr-auto font-semibold">{{ s.supplier.name }}</span> <span class="num text-dim">{{ s.prices }}</span>
            </RouterLink>
          </li>
        </ol>
        <div :key="current.supplier.id" class="min-w-0" data-testid="supplier">
          <div class="mb-4 flex flex-wrap items-start gap-3">
            <LooseField class="min-w-52 flex-1" label="Name" :value="current.supplier.name" @change="change('name', $event)" />
            <LooseField
              class="w-24"
              label="Currency"
              :value="current.supplier.currency"
              placeholder="as the shop"
              @change="change('currency', $event)"
            />
            <LooseField
              class="w-28"
              label="Days to come"
              kind="count"
              :value="current.supplier.lead_days"
              @change="change('lead_days', $event)"
            />
            <LooseField
              class="w-28"
              label="Shipping"
              kind="cents"
              :value="current.supplier.shipping_cents"
              @change="change('shipping_cents', $event)"
            />
            <LooseField
              class="w-32"
              label="Ships free from"
              kind="cents"
              :value="current.supplier.free_over_cents"
              @change="change('free_over_cents', $event)"
            />
            <LooseField
              class="w-28"
              label="Least order"
              kind="cents"
              :value="current.supplier.minimum_cents"
              @change="change('minimum_cents', $event)"
            />
          </div>
          <section aria-labelledby="off-head" class="mb-4">
            <div class="mb-2 flex flex-wrap items-center gap-2">
              <h2 id="off-head" class="mr-auto text-lg">
                Discounts <span class="text-base font-normal text-dim">a code or its categories, whichever is better</span>
              </h2>
              <button type="button" class="btn" @click="change('discounts', [...discounts, { id: freshId(), code: 'CODE', percent: 10 }])">
                Add a code
              </button>
              <button
                type="button"
                class="btn"
                @click="change('discounts', [...discounts, { id: freshId(), category: 'lamps', percent: 20 }])"
              >
                Add a category
              </button>
            </div>
            <div v-for="d in discounts" :key="d.id" class="mb-2 flex flex-wrap items-start gap-3">
              <LooseField
                class="w-48"
                :label="d.code !== undefined ? 'Code' : 'Category'"
                :value="d.code ?? d.category"
                @change="discount(d.id, { [d.code !== undefined ? 'code' : 'category']: $event })"
              />
              <LooseField class="w-24" label="Percent" kind="count" :value="d.percent" @change="discount(d.id, { percent: $event })" />
              <button type="button" class="btn btn-bare mt-7" @click="discount(d.id, null)">take out</button>
            </div>
          </section>
          <section aria-labelledby="list-head">
            <div class="mb-2 flex flex-wrap items-center gap-2">
              <h2 id="list-head" class="mr-auto text-lg">
                Price list <span class="num text-base font-normal text-dim">{{ current.prices }}</span>
              </h2>
              <button type="button" class="btn" @click="importing = true">Take in a list</button>
              <a class="btn" :href="`/api/suppliers/${current.supplier.id}/file`" download>List as CSV</a>
              <button type="button" class="btn btn-bare" @click="remove(current.supplier)">Throw this supplier away</button>
            </div>
            <label class="mb-2 block max-w-80"
              ><span class="text-dim">Find an article</span><input v-model="word" class="field" autocomplete="off"
            /></label>
            <div v-if="page?.prices.length" class="overflow-x-auto">
              <table class="sheet w-full">
                <thead>
                  <tr>
                    <th>article</th>
                    <th>name</th>
                    <th class="r">pack</th>
                    <th class="r">price</th>
                    <th>on the shelf</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="p in page.prices" :key="p.article">
                    <td class="num">{{ p.article }}</td>
                    <td>
                      {{ p.name }} <span v-if="p.category" class="text-sm text-dim">{{ p.category }}</span>
                    </td>
                    <td class="r num">{{ p.pack }}</td>
                    <td class="r num">{{ money(p.cents) }}</td>
                    <td>
                      <RouterLink v-for="id in p.parts" :key="id" class="text-brass underline" :to="{ name: 'shelf', params: { part: id } }"
                        >yes</RouterLink
                      >
                    </td>
                  </tr>
                </tbody>
              </table>
            </div>
            <EmptyBox v-else>{{
              word ? 'No article like that.' : 'No prices yet: take in a list, or give a part of the shelf a price here.'
            }}</EmptyBox>
            <p v-if="page && page.count > page.prices.length" class="mt-2 flex items-center gap-2">
              <button type="button" class="btn" :disabled="from === 0" @click="turn(-100)">earlier</button>
              <span class="num">{{ from + 1 }}–{{ from + page.prices.length }} of {{ page.count }}</span>
              <button type="button" class="btn" :disabled="from + page.prices.length >= page.count" @click="turn(100)">later</button>
            </p>
          </section>
        </div>
      </div>
      <PriceTable :open="importing" :send="send" @close="importing = false" @taken="taken" />
    </template>
  </main>
</template>
