<script setup lang="ts">
import { useDebounce } from '@vueuse/core'
import { ref } from 'vue'
import { api } from '../api/client'
import { useFetched } from '../state/useFetched'
import { useMe } from '../state/useMe'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import { plain } from '../ui/format'
import ExchangePart from './ExchangePart.vue'

/** What the shop has learnt of parts, models and its own work. */
document.title = 'What was learnt · Miser'
const me = useMe()
const word = ref('')
const asked = useDebounce(word, 150)
const { data, failed, fetch } = useFetched(asked, () =>
  api.GET('/api/learnt', { params: { query: { q: asked.value.trim() || undefined } } }),
)
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/book" class="btn btn-bare">‹ the book</RouterLink>
      <h1 class="mr-auto text-2xl">What was learnt</h1>
      <label><span class="sr-only">Show only</span><input v-model="word" class="field w-56" placeholder="show only …" /></label>
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <p v-if="!data && !failed" class="p-4 text-dim" role="status">Adding up …</p>
    <template v-if="data">
      <section class="my-5" aria-labelledby="learnt-parts">
        <h2 id="learnt-parts" class="mb-2 text-xl">Parts</h2>
        <EmptyBox v-if="data.parts.length === 0">
          Nothing yet. A part that is read on a machine, timed, looked at again or sent back has a record here.
        </EmptyBox>
        <ul v-else>
          <li v-for="p in data.parts" :key="p.key" class="border-b border-line" data-testid="learnt-part">
            <RouterLink
              class="grid min-h-14 grid-cols-[1fr_8rem_8rem_1fr] items-center gap-x-4 py-1 hover:bg-shade max-[760px]:grid-cols-[1fr_7rem]"
              :to="{ name: 'learnt-part', query: { name: p.label } }"
            >
              <span class="font-semibold">{{ p.label }}</span>
              <span class="num text-right">
                <template v-if="p.mean !== null"
                  >{{ plain(p.mean, 2) }} A<span class="block text-sm text-dim">read on {{ p.n }}</span></template
                >
              </span>
              <span class="num text-right text-dim max-[760px]:hidden">
                <template v-if="p.claimed !== null">{{ plain(p.claimed, 2) }} A<span class="block text-sm">claimed</span></template>
              </span>
              <span class="max-[760px]:col-span-2" :class="p.disappoints ? 'font-semibold text-brick' : 'text-sm text-dim'">{{
                p.says
              }}</span>
            </RouterLink>
          </li>
        </ul>
        <p v-if="data.counts.part > data.parts.length" class="py-2 text-dim">
          {{ data.counts.part - data.parts.length }} more: name one above.
        </p>
      </section>
      <section class="my-5" aria-labelledby="learnt-models">
        <h2 id="learnt-models" class="mb-2 text-xl">Models</h2>
        <EmptyBox v-if="data.models.length === 0">
          Nothing yet. A machine whose model is named at Intake teaches what its like earns and draws.
        </EmptyBox>
        <ul v-else class="grid gap-x-8 min-[760px]:grid-cols-2">
          <li v-for="m in data.models" :key="m.key" class="border-b border-line">
            <RouterLink class="flex min-h-12 items-center gap-3 hover:bg-shade" :to="{ name: 'learnt-model', query: { name: m.label } }">
              <span class="mr-auto font-semibold">{{ m.label }}</span>
              <span class="num text-dim">{{ m.rows }} readings in {{ m.jobs }} {{ m.jobs === 1 ? 'job' : 'jobs' }}</span>
            </RouterLink>
          </li>
        </ul>
      </section>
      <section v-if="data.work.length" class="my-5" aria-labelledby="learnt-work">
        <h2 id="learnt-work" class="mb-2 text-xl">Minutes, foretold and real</h2>
        <table class="sheet w-full max-w-2xl">
          <thead>
            <tr>
              <th class="text-left">work</th>
              <th class="r">foretold</th>
              <th class="r">real</th>
              <th class="r">jobs</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="w in data.work" :key="w.key">
              <td>{{ w.label }}</td>
              <td class="r num">{{ plain(w.reckoned ?? 0, 0) }} min</td>
              <td class="r num font-semibold">
                {{ plain(w.mean ?? 0, 0) }}<template v-if="w.deviation"> ± {{ plain(w.deviation, 0) }}</template> min
              </td>
              <td class="r num">{{ w.n }}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <ExchangePart :may-take="me.mayOwn" @taken="fetch" />
    </template>
  </main>
</template>
