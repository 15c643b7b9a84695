<script setup lang="ts">
import { computed } from 'vue'
import { useRoute } from 'vue-router'
import { api } from '../api/client'
import { useFetched } from '../state/useFetched'
import FailNote from '../ui/FailNote.vue'
import FigureValue from '../ui/FigureValue.vue'
import { money, signWord, sizeOf, toneOf } from '../ui/format'
import StandingMark from './StandingMark.vue'

/** All machines of an owner on one sheet. */
const route = useRoute()
const owner = computed(() => String(route.query.owner ?? ''))
document.title = 'Fleet · Miser'
const { data: fleet, failed } = useFetched(owner, () => api.GET('/api/fleet', { params: { query: { owner: owner.value } } }))
const scenario = computed(() => fleet.value?.machines.find((m) => m.scenario)?.scenario)
const print = () => window.print()
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="no-print flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/book" class="btn btn-bare">‹ the book</RouterLink>
      <h1 class="mr-auto text-2xl">Fleet sheet</h1>
      <button type="button" class="btn" @click="print">Print</button>
      <a class="btn" :href="`/api/fleet.pdf?owner=${encodeURIComponent(owner)}`" download>PDF</a>
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <p v-if="!fleet && !failed" class="p-4 text-dim" role="status">Adding up …</p>
    <article v-if="fleet" class="mt-4" aria-label="Fleet sheet">
      <div class="mb-3 flex flex-wrap items-end gap-x-8 gap-y-2">
        <p class="mr-auto text-2xl font-bold">{{ fleet.owner }}</p>
        <p class="num text-lg">
          <span class="text-[1.75rem] font-bold">{{ fleet.machines.length }}</span> machines
        </p>
        <p v-if="fleet.short" class="num text-lg text-brick">
          <span class="text-[1.75rem] font-bold">{{ fleet.short }}</span> owe
        </p>
        <p class="num text-lg">
          <span v-if="fleet.at_least" class="text-brick">at least </span
          ><span class="text-[1.75rem] font-bold">{{ money(fleet.cents) }}</span> {{ fleet.currency }} parts
        </p>
        <p class="num text-lg">
          <span class="text-[1.75rem] font-bold">{{ fleet.open }}</span> to look at again
        </p>
      </div>
      <p class="mb-2 text-dim">Amps kept, {{ scenario?.toLowerCase() ?? 'idling' }}; {{ fleet.on }}</p>
      <div class="overflow-x-auto print:overflow-visible">
        <table class="sheet w-full">
          <thead>
            <tr>
              <th class="text-left">machine</th>
              <th class="r">came in</th>
              <th class="r">now</th>
              <th class="r">parts</th>
              <th class="text-left">to be looked at again</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="m in fleet.machines" :key="m.id" data-testid="fleet-row">
              <td>
                <RouterLink
                  class="font-semibold underline decoration-line underline-offset-4"
                  :to="{ name: 'machine', params: { id: m.id } }"
                  >{{ m.name }}</RouterLink
                >
                <span class="block text-sm text-dim">
                  {{
                    [
                      m.model && m.name.startsWith(m.model) ? '' : m.model,
                      m.year,
                      m.frame,
                      m.in_bay ? 'in the bay' : '',
                      m.jobs > 1 ? `${m.jobs} jobs` : '',
                    ]
                      .filter(Boolean)
                      .join(' · ')
                  }}
                </span>
              </td>
              <td class="r whitespace-nowrap"><FigureValue v-if="m.before" :figure="m.before" name="Kept before" sign /></td>
              <td class="r font-bold whitespace-nowrap" :class="toneOf(m.verdict)">
                <template v-if="m.after">{{ signWord(m.after) }} <FigureValue :figure="sizeOf(m.after)" name="Kept now" sigma /></template>
              </td>
              <td class="r num">
                <span v-if="m.at_least" class="block text-sm text-brick">at least</span>{{ m.cents || m.at_least ? money(m.cents) : '' }}
              </td>
              <td>
                <span v-for="r in m.rechecks" :key="r.job + r.id" class="block text-sm">
                  <RouterLink
                    class="num underline decoration-line underline-offset-4"
                    :to="{ name: 'recheck', params: { id: r.job, recheck: r.id } }"
                    >{{ r.due_on }}</RouterLink
                  >
                  <span :title="r.what">{{ r.label }}</span>
                  <StandingMark v-if="r.standing === 'overdue'" :standing="r.standing" :words="r.words" />
                </span>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </article>
  </main>
</template>
