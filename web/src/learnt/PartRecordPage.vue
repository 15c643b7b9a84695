<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api } from '../api/client'
import ReadSpread from '../charts/ReadSpread.vue'
import YearsChart from '../charts/YearsChart.vue'
import { useFetched } from '../state/useFetched'
import { useMe } from '../state/useMe'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import { plain } from '../ui/format'
import ToneNote from '../ui/ToneNote.vue'
import LessonRows from './LessonRows.vue'
import OtherShops from './OtherShops.vue'

/** What became of a part: claimed against read, how often it failed, how long it takes. */
const route = useRoute()
const router = useRouter()
const name = computed(() => String(route.query.name ?? ''))
const { data: record, failed } = useFetched(name, () =>
  api.GET('/api/learnt/part', { params: { query: { name: name.value, shelf: (route.query.shelf as string) || undefined } } }),
)
watch(name, (n) => (document.title = `${n}, what was learnt · Miser`), { immediate: true })
const open = (job: string) => void router.push(`/job/${job}`)
const NAMES: Record<string, string> = { loose: 'found loose', dim: 'found dim', dead: 'found dead', returned: 'sent back' }
const me = useMe()
const taken = ref('')
/** What fitting really took stands on the shelf from now on. */
async function reckon() {
  const { shelf_id, minutes } = record.value!
  const value = plain(minutes.mean ?? 0, 0)
  const edits = [{ op: 'set' as const, at: '/part/minutes', value }]
  const { error } = await api.PATCH('/api/parts/{id}', { params: { path: { id: shelf_id! } }, body: { edits } })
  taken.value = error ? error.message : `The shelf reckons with ${value} min now.`
}
const percent = (share: number) => `${plain(share * 100, 0)} %`
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/learnt" class="btn btn-bare">‹ what was learnt</RouterLink>
      <h1 class="mr-auto text-2xl">{{ record?.label ?? name }}</h1>
      <RouterLink v-if="record?.shelf_id" class="btn btn-bare" :to="{ name: 'shelf', params: { part: record.shelf_id } }"
        >on the shelf</RouterLink
      >
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <p v-if="!record && !failed" class="p-4 text-dim" role="status">Adding up …</p>
    <template v-if="record">
      <ToneNote v-for="f in record.findings" :key="f.text" :tone="f.level === 'warning' ? 'bad' : 'plain'" class="mt-3">{{
        f.text
      }}</ToneNote>
      <section class="my-6" aria-labelledby="record-draws">
        <h2 id="record-draws" class="mb-2 text-xl">Claimed and read</h2>
        <EmptyBox v-if="record.draws.length === 0">Its draw was never read on a machine.</EmptyBox>
        <div v-for="d in record.draws" :key="d.item" class="mb-4 border-b border-line pb-2" data-testid="record-draw">
          <p class="flex flex-wrap items-baseline gap-x-6">
            <span class="font-semibold">{{ d.words }}</span>
            <span class="num text-[1.75rem] font-bold"
              >{{ plain(d.mean ?? 0, 2) }}<span v-if="d.sigma" class="text-lg font-normal"> ± {{ plain(d.sigma, 2) }}</span>
              <span class="unit text-lg"> A</span></span
            >
            <span class="text-dim">a copy that nobody read, at {{ plain(d.at_v, 1) }} V; {{ d.n }} read</span>
            <span v-if="d.claimed" class="num text-brass">claimed {{ plain(d.claimed, 2) }} A</span>
            <span v-if="d.ratio" class="num">{{ percent(d.ratio) }} of it</span>
            <span v-if="d.deviation" class="num text-dim">copies scatter by {{ plain(d.deviation, 2) }} A</span>
          </p>
          <ReadSpread :lessons="d.lessons" :mean="d.mean" :sigma="d.sigma" :claimed="d.claimed" unit="A" :label="d.words" @open="open" />
          <template v-if="d.trend && d.lessons.length > 2">
            <p class="text-sm" :class="d.trend.drifts ? 'font-semibold text-brick' : 'text-dim'">From copy to copy: {{ d.trend.words }}</p>
            <YearsChart v-if="d.trend.drifts" :rows="d.lessons" unit="A" :label="d.words" :trend="d.trend" :line="d.claimed" @open="open" />
          </template>
          <OtherShops :others="d.others" unit="A" />
          <LessonRows :rows="d.lessons" unit="A" />
        </div>
      </section>
      <section class="my-6" aria-labelledby="record-fails">
        <h2 id="record-fails" class="mb-2 text-xl">What became of it</h2>
        <p class="mb-2">{{ record.fitted }} fitted and handed over.</p>
        <table class="sheet w-full max-w-xl">
          <tbody>
            <tr v-for="s in record.shares" :key="s.what">
              <td>{{ NAMES[s.what] ?? s.what }}</td>
              <td class="r num font-semibold" :class="s.k ? 'text-brick' : ''">{{ s.k }} of {{ s.of }}</td>
              <td class="r num text-dim">{{ s.bounds ? `${percent(s.bounds[0])} to ${percent(s.bounds[1])}` : 'none looked at' }}</td>
            </tr>
            <tr>
              <td>minutes a piece</td>
              <td class="r num font-semibold">
                <template v-if="record.minutes.n"
                  >{{ plain(record.minutes.mean ?? 0, 0)
                  }}<template v-if="record.minutes.deviation"> ± {{ plain(record.minutes.deviation, 0) }}</template></template
                ><template v-else>not timed</template>
              </td>
              <td class="r num text-dim">{{ record.minutes.reckoned ? `reckoned ${plain(record.minutes.reckoned, 0)}` : '' }}</td>
            </tr>
          </tbody>
        </table>
        <p v-if="me.mayChange && record.shelf_id && record.minutes.n" class="my-2 flex flex-wrap items-center gap-3">
          <button type="button" class="btn" @click="reckon">Reckon with {{ plain(record.minutes.mean ?? 0, 0) }} min from now on</button>
          <span v-if="taken" class="text-dim" role="status">{{ taken }}</span>
        </p>
        <LessonRows :rows="record.rows" unit="" :digits="0" />
      </section>
    </template>
  </main>
</template>
