<script setup lang="ts">
import { useDebounce } from '@vueuse/core'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import { useFetched } from '../state/useFetched'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'

/** Every machine that was ever in the shop: found by its name, its owner, its model, its frame number. */
type Row = Schemas['BookRow']
const route = useRoute()
const router = useRouter()
document.title = 'The book · Miser'
const word = ref(String(route.query.q ?? ''))
const asked = useDebounce(word, 150)
const owner = ref(String(route.query.owner ?? ''))
const model = computed(() => String(route.query.model ?? ''))
const order = ref<'name' | 'owner' | 'model'>('name')
const more = ref<Row[]>([])
const query = (from = 0) => ({
  q: asked.value.trim() || undefined,
  owner: owner.value || undefined,
  model: model.value || undefined,
  order: order.value,
  from,
})
const { data, failed } = useFetched([asked, owner, model, order], () => {
  more.value = []
  return api.GET('/api/book', { params: { query: query() } })
})
watch(
  [asked, owner],
  () =>
    void router.replace({
      query: { q: asked.value.trim() || undefined, owner: owner.value || undefined, model: model.value || undefined },
    }),
)
const machines = computed(() => [...(data.value?.machines ?? []), ...more.value])
async function further() {
  const answer = await api.GET('/api/book', { params: { query: query(machines.value.length) } })
  if (answer.data) more.value = [...more.value, ...answer.data.machines]
}
const day = (at: string | null) => (at ? at.slice(0, 10) : '')
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ bay board</RouterLink>
      <h1 class="mr-auto text-2xl">The book</h1>
      <RouterLink class="btn btn-bare" to="/rechecks">rechecks</RouterLink>
      <RouterLink class="btn btn-bare" to="/learnt">what was learnt</RouterLink>
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <div class="my-4 flex flex-wrap items-end gap-3">
      <label class="min-w-52 flex-1"
        ><span class="mb-1 block text-dim">Find a machine</span>
        <input v-model="word" class="field" placeholder="name, owner, model or frame number" autocomplete="off"
      /></label>
      <label
        ><span class="mb-1 block text-dim">Owner</span>
        <select v-model="owner" class="field max-w-72">
          <option value="">everybody</option>
          <option v-for="o in data?.owners" :key="o.owner" :value="o.owner">{{ o.owner }} ({{ o.machines }})</option>
        </select></label
      >
      <label
        ><span class="mb-1 block text-dim">By</span>
        <select v-model="order" class="field">
          <option value="name">name</option>
          <option value="owner">owner</option>
          <option value="model">model</option>
        </select></label
      >
      <RouterLink v-if="owner" class="btn" :to="{ name: 'fleet', query: { owner } }">Fleet sheet</RouterLink>
    </div>
    <p v-if="model" class="mb-2">
      Only “{{ model }}”. <RouterLink class="underline underline-offset-4" :to="{ name: 'book' }">All machines</RouterLink>
    </p>
    <p v-if="!data && !failed" class="p-4 text-dim" role="status">Opening the book …</p>
    <EmptyBox v-else-if="data && data.all === 0">
      The book is empty. A machine stands in it from its first ticket on; what is handed over leaves the board and is found here.
    </EmptyBox>
    <EmptyBox v-else-if="data && machines.length === 0">No machine of the book has all of these words.</EmptyBox>
    <table v-else-if="data" class="sheet w-full">
      <thead>
        <tr>
          <th class="text-left">machine</th>
          <th class="text-left max-[760px]:hidden">model, year</th>
          <th class="text-left max-[760px]:hidden">owner</th>
          <th class="r">jobs</th>
          <th class="text-left">went out</th>
          <th class="r">due</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="m in machines" :key="m.id" data-testid="book-row">
          <td>
            <RouterLink
              class="inline-flex min-h-11 items-center font-semibold underline decoration-line underline-offset-4 hover:decoration-brass"
              :to="{ name: 'machine', params: { id: m.id } }"
              >{{ m.name }}</RouterLink
            >
            <span v-if="m.gone_on" class="ml-2 text-sm text-dim">gone {{ m.gone_on }}</span>
          </td>
          <td class="max-[760px]:hidden">
            {{ m.model ?? '' }} <span class="text-dim">{{ m.year ?? '' }}</span>
          </td>
          <td class="max-[760px]:hidden">{{ m.owner ?? '' }}</td>
          <td class="r num">{{ m.jobs }}</td>
          <td>
            <RouterLink v-if="m.open" class="font-semibold text-brass underline underline-offset-4" :to="`/job/${m.open}`"
              >in the bay</RouterLink
            >
            <span v-else class="text-dim">{{ day(m.last) }}</span>
          </td>
          <td class="r num" :class="m.due ? 'font-semibold text-brick' : 'text-dim'">{{ m.due || '' }}</td>
        </tr>
      </tbody>
    </table>
    <button v-if="data && data.count > machines.length" type="button" class="btn mt-3" @click="further">
      {{ data.count - machines.length }} more
    </button>
  </main>
</template>
