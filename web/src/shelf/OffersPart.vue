<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import { useFetched } from '../state/useFetched'
import { centsOf, countOf } from '../ui/typed'
import FailNote from '../ui/FailNote.vue'
import { money } from '../ui/format'
import LooseField from '../ui/LooseField.vue'

/** What suppliers ask for a part, and how many lie on the shelf. */
const props = defineProps<{ id: string }>()
const emit = defineEmits<{ changed: [] }>()
const asked = ref(0)
const failed = ref('')
const { data: kept } = useFetched([() => props.id, asked], () => api.GET('/api/parts/{id}/offers', { params: { path: { id: props.id } } }))
const { data: suppliers } = useFetched([asked], () => api.GET('/api/suppliers'))
const supplier = ref('')
const article = ref('')
const price = ref('')
const pack = ref('')
const names = computed(() => suppliers.value?.suppliers.map((s) => s.supplier) ?? [])

async function send(call: () => Promise<{ data?: unknown; error?: Schemas['Refusal'] }>) {
  failed.value = ''
  try {
    const { error } = await call()
    const first = error?.fields?.[0]
    if (error) return void (failed.value = first ? `${first.field}: ${first.message}. Accepted: ${first.accepts}.` : error.message)
    asked.value += 1
    emit('changed')
    return true
  } catch {
    failed.value = AWAY
  }
}
const path = () => ({ path: { id: props.id } })
const stock = (body: { pieces?: number; reorder_at?: number | null }) =>
  send(() => api.POST('/api/parts/{id}/stock', { params: path(), body }))
async function add() {
  const cents = centsOf(price.value)
  const count = countOf(pack.value)
  if (!supplier.value || !article.value.trim() || typeof cents !== 'number' || count === null)
    return void (failed.value = 'A supplier, its article number, and a price such as 12.50 are wanted.')
  const done = await send(() =>
    api.POST('/api/parts/{id}/offers', {
      params: path(),
      body: { supplier_id: supplier.value, article: article.value.trim(), cents, pack: count ?? 1 },
    }),
  )
  if (done) article.value = price.value = pack.value = ''
}
function drop(o: Schemas['PartOffers']['offers'][number]) {
  void send(() => api.DELETE('/api/parts/{id}/offers', { params: { ...path(), query: { supplier: o.supplier_id, article: o.article } } }))
}
</script>

<template>
  <section aria-label="Prices and stock" data-testid="offers">
    <h3 class="mb-2 text-lg">Prices and stock</h3>
    <FailNote :text="failed" />
    <div v-if="kept" class="mb-3 flex flex-wrap gap-3">
      <LooseField class="w-32" label="On the shelf" kind="count" :value="kept.pieces" @change="stock({ pieces: Number($event ?? 0) })" />
      <LooseField
        class="w-32"
        label="Buy again at"
        kind="count"
        :value="kept.reorder_at"
        @change="stock({ reorder_at: ($event as number) ?? null })"
      />
    </div>
    <table v-if="kept?.offers.length" class="sheet mb-3 w-full">
      <thead>
        <tr>
          <th>supplier</th>
          <th>article</th>
          <th class="r">pack</th>
          <th class="r">price</th>
          <th class="r">days</th>
          <th><span class="sr-only">take out</span></th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="o in kept.offers" :key="o.supplier_id + o.article">
          <td>{{ o.supplier }}</td>
          <td class="num">{{ o.article }}</td>
          <td class="r num">{{ o.pack }}</td>
          <td class="r num">{{ money(o.cents) }}</td>
          <td class="r num">{{ o.lead_days ?? '' }}</td>
          <td class="r">
            <button type="button" class="btn btn-bare" :aria-label="`Take out ${o.article}`" @click="drop(o)">take out</button>
          </td>
        </tr>
      </tbody>
    </table>
    <form class="flex flex-wrap items-end gap-3" @submit.prevent="add">
      <label class="block w-48"
        ><span class="text-dim">Supplier</span
        ><select v-model="supplier" class="field">
          <option value=""></option>
          <option v-for="s in names" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select></label
      >
      <label class="block w-32"
        ><span class="text-dim">Article</span><input v-model="article" class="field num" autocomplete="off"
      /></label>
      <label class="block w-28"
        ><span class="text-dim">Price</span><input v-model="price" class="field num" inputmode="decimal" autocomplete="off"
      /></label>
      <label class="block w-20"
        ><span class="text-dim">Pack</span><input v-model="pack" class="field num" inputmode="numeric" placeholder="1" autocomplete="off"
      /></label>
      <button type="submit" class="btn">Add a price</button>
    </form>
  </section>
</template>
