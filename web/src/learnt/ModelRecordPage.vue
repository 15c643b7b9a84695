<script setup lang="ts">
import { computed, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, type Schemas } from '../api/client'
import ReadSpread from '../charts/ReadSpread.vue'
import { useFetched } from '../state/useFetched'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import { plain } from '../ui/format'
import LessonRows from './LessonRows.vue'
import OtherShops from './OtherShops.vue'

/** What machines of one model earn and draw. */
const route = useRoute()
const router = useRouter()
const name = computed(() => String(route.query.name ?? ''))
const { data: record, failed } = useFetched(name, () => api.GET('/api/learnt/model', { params: { query: { name: name.value } } }))
watch(name, (n) => (document.title = `${n}, what was learnt · Miser`), { immediate: true })
const open = (job: string) => void router.push(`/job/${job}`)
const parts = computed((): { id: string; head: string; groups: Schemas['RecordGroup'][] }[] =>
  record.value
    ? [
        { id: 'points', head: 'Charging points', groups: record.value.points },
        { id: 'earns', head: 'Earned at its own speeds', groups: record.value.earns },
        { id: 'held', head: 'Volts held', groups: record.value.held },
        { id: 'draws', head: 'What its loads draw', groups: record.value.draws },
      ].filter((p) => p.groups.length)
    : [],
)
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/learnt" class="btn btn-bare">‹ what was learnt</RouterLink>
      <h1 class="mr-auto text-2xl">{{ record?.label ?? name }}</h1>
      <RouterLink class="btn btn-bare" :to="{ name: 'book', query: { model: name } }">its machines</RouterLink>
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <p v-if="!record && !failed" class="p-4 text-dim" role="status">Adding up …</p>
    <template v-if="record">
      <p class="my-3 text-dim">
        Read on {{ record.machines }} {{ record.machines === 1 ? 'machine' : 'machines' }} in {{ record.jobs }}
        {{ record.jobs === 1 ? 'job' : 'jobs' }}. The doubt is that of a machine that nobody read.
      </p>
      <EmptyBox v-if="parts.length === 0">Nothing was measured on machines of this model.</EmptyBox>
      <section v-for="p in parts" :key="p.id" class="my-5" :aria-labelledby="`model-${p.id}`">
        <h2 :id="`model-${p.id}`" class="mb-1 text-xl">{{ p.head }}</h2>
        <div class="grid gap-x-8 gap-y-2 min-[900px]:grid-cols-2">
          <div v-for="g in p.groups" :key="g.item + g.words + g.rpm" class="min-w-0 border-b border-line pb-1" data-testid="model-group">
            <p class="flex flex-wrap items-baseline gap-x-4">
              <span class="font-semibold">{{ g.words }}</span>
              <span class="num text-lg font-bold"
                >{{ plain(g.mean ?? 0, 2) }}<span v-if="g.sigma" class="font-normal"> ± {{ plain(g.sigma, 2) }}</span> {{ g.unit }}</span
              >
              <span class="text-dim">{{ g.n }} {{ g.n === 1 ? 'machine' : 'machines' }}</span>
            </p>
            <ReadSpread
              v-if="g.lessons.length > 1"
              :lessons="g.lessons"
              :mean="g.mean"
              :sigma="g.sigma"
              :unit="g.unit"
              :label="g.words"
              @open="open"
            />
            <OtherShops :others="g.others" :unit="g.unit" />
            <LessonRows :rows="g.lessons" :unit="g.unit" />
          </div>
        </div>
      </section>
    </template>
  </main>
</template>
