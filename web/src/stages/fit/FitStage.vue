<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ofJob } from '../../api/client'
import LeftOpenPart from '../../parts/LeftOpenPart.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import StageMark from '../../ui/StageMark.vue'
import AtTheMachine from './AtTheMachine.vue'
import TrayGrid from './TrayGrid.vue'
import TrayPlace from './TrayPlace.vue'
import { useCard, type Cell, type Step } from './useCard'
import { useAtHand } from './useAtHand'

/** The job card: what the hands do, in order, and how far they are. */
const card = useCard()
const { job, view, failed, steps, done, cells, place, addPlace } = card
useAtHand(job)
const route = useRoute()
const router = useRouter()

/** At the machine while the address says so: the way back leads out of it. */
const open = computed(() => route.query.machine !== undefined)
const from = ref<string | null>(null)
function machine(step: Step | null) {
  from.value = step?.key ?? null
  void router.push({ query: { machine: '' } })
}
function leave() {
  if (open.value) void router.replace({ query: {} })
}

const blocks = computed(() => {
  const found: { name: string; steps: Step[] }[] = []
  for (const s of steps.value) {
    if (found.at(-1)?.name === s.block) found.at(-1)!.steps.push(s)
    else found.push({ name: s.block, steps: [s] })
  }
  return found
})
const whole = (minutes: number) => String(Math.round(minutes))
const picked = ref<string | null>(null)
const pickedCell = computed(() => cells.value.find((c) => c.place === picked.value))
const pick = (cell: Cell) => (picked.value = picked.value === cell.place ? null : cell.place)
const PAPERS = [
  { key: 'card', label: 'Job card' },
  { key: 'tray', label: 'Tray sheet' },
  { key: 'joints', label: 'Joining table' },
  { key: 'check', label: 'Check sheet' },
] as const
const paper = computed(() => (view.value?.units === 'us' ? 'letter' : 'a4'))

function choose(what: string, event: Event) {
  const template = (event.target as HTMLSelectElement).value
  job.edit([{ op: 'put', at: '/card/access', value: { id: what, template } }])
}
const said = (what: string) => job.document?.card?.access?.find((a) => a.id === what)?.template
</script>

<template>
  <div>
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="text-xl">Job card</h2>
      <p v-if="view && view.total" class="mr-auto text-dim" data-testid="card-progress">
        {{ done }} of {{ steps.length }} done · {{ view.minutes_words }}
      </p>
      <button v-if="steps.length" type="button" class="btn btn-main min-h-14" data-testid="at-the-machine" @click="machine(null)">
        At the machine
      </button>
    </div>
    <FailNote :text="failed" />
    <EmptyBox v-if="!view && !failed">Making the card …</EmptyBox>
    <EmptyBox v-else-if="view && !steps.length">
      Nothing is changed on this machine yet: steps come from lamps that get another part, from what cures the signals, and from feeds.
    </EmptyBox>
    <template v-if="view && steps.length">
      <ul v-if="view.oddities.length || view.gone.length || view.tray.problems.length" class="mb-3" data-testid="oddities">
        <li v-for="t in view.tray.problems" :key="t" class="border-l-4 border-brick bg-brick-soft px-3 py-1">{{ t }}</li>
        <li v-for="(o, i) in view.oddities" :key="i" class="border-l-4 border-brick px-3 py-1">{{ o.text }}</li>
        <li v-for="g in view.gone" :key="g.step" class="border-l-4 border-line px-3 py-1 text-dim">
          Done and no longer on the card: {{ g.said ?? g.step }}
        </li>
      </ul>
      <LeftOpenPart v-if="view.points.length" :points="view.points" title="The tray" class="mb-3" />
      <div class="mb-4 flex flex-wrap items-center gap-2">
        <span class="text-dim">PDF</span>
        <a v-for="p in PAPERS" :key="p.key" class="btn" :href="ofJob(job.id, 'card.pdf', { sheet: p.key, paper })" download>{{
          p.label
        }}</a>
        <a class="btn" :href="ofJob(job.id, 'card.pdf', { paper })" download>All four</a>
      </div>
      <div class="grid gap-6 min-[1100px]:grid-cols-[minmax(0,1fr)_22rem]">
        <ol data-testid="steps-list">
          <li v-for="(b, i) in blocks" :key="i" class="mb-3">
            <h3 class="border-b border-line font-bold">{{ b.name }}</h3>
            <ol>
              <li v-for="s in b.steps" :key="s.key">
                <button
                  type="button"
                  class="flex min-h-11 w-full items-start gap-3 py-1.5 text-left hover:bg-shade"
                  :class="s.key === view.next ? 'bg-brass-soft' : ''"
                  :data-step="s.key"
                  @click="machine(s)"
                >
                  <span class="num w-7 shrink-0 text-right text-dim">{{ s.number }}</span>
                  <StageMark :state="s.state === 'done' ? 'done' : s.state === 'open' ? 'empty' : 'stale'" class="mt-1.5" />
                  <span class="min-w-0 flex-1">
                    {{ s.text }}
                    <span v-if="s.state !== 'open' && s.state !== 'done'" class="text-brick"> · {{ view.states[s.state] }}</span>
                    <span v-if="s.held && s.state !== 'open'" class="block text-brick">{{ s.held }}</span>
                    <span v-if="s.hold" class="block text-sm font-bold text-brick">hold: {{ s.hold }}</span>
                    <span v-for="n in s.notes" :key="n.id" class="block text-sm text-dim">{{ n.text }}</span>
                  </span>
                  <span class="w-28 shrink-0 text-right text-sm text-dim max-sm:hidden">{{ s.tool }}</span>
                  <span class="num w-32 shrink-0 text-right whitespace-nowrap max-sm:w-20 max-sm:text-sm text-dim"
                    >{{ s.spent_s ? `${whole(s.spent_s / 60)} of ` : '' }}{{ s.minutes === null ? '?' : whole(s.minutes) }} min</span
                  >
                </button>
              </li>
            </ol>
          </li>
        </ol>
        <aside>
          <h3 class="mb-2 text-lg">How it is opened</h3>
          <label v-for="a in view.access" :key="a.what" class="mb-2 block">
            <span class="text-dim">{{ a.label }}</span>
            <select
              class="field"
              :disabled="job.readonly"
              :value="said(a.what) ?? a.template ?? 'none'"
              :data-access="a.what"
              @change="choose(a.what, $event)"
            >
              <option value="none">nothing is opened</option>
              <option v-for="o in a.options" :key="o.key" :value="o.key">{{ o.label }}</option>
            </select>
          </label>
          <RouterLink class="underline underline-offset-4" to="/access">The shop’s ways of opening</RouterLink>
          <h3 class="mt-5 mb-2 flex justify-between text-lg">
            Tray <span class="text-base font-normal text-dim">{{ view.tray.out }} out · {{ view.tray.back }} back</span>
          </h3>
          <p v-if="!cells.length" class="text-dim">Nothing comes out.</p>
          <TrayPlace v-if="pickedCell" :cell="pickedCell" class="mb-2" @place="place(pickedCell!, $event)" />
          <TrayGrid :cells="cells" @pick="pick" />
          <button type="button" class="btn mt-2" :disabled="job.readonly" @click="addPlace(null)">Another fastener came out</button>
          <h3 class="mt-5 mb-2 text-lg">Minutes</h3>
          <table class="sheet w-full" data-testid="card-minutes">
            <thead>
              <tr>
                <th>kind</th>
                <th class="r">foretold</th>
                <th class="r">spent</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="m in view.minutes" :key="m.kind" :class="m.kind === 'all' ? 'font-bold' : ''">
                <td>{{ m.label }}</td>
                <td class="r num">{{ whole(m.estimate) }}{{ m.untimed ? ` + ${m.untimed} unknown` : '' }}</td>
                <td class="r num">{{ m.spent ? whole(m.spent) : '–' }}</td>
              </tr>
            </tbody>
          </table>
          <p class="mt-1 text-sm text-dim">A quote has {{ whole(view.quoted) }} min of it: fitting and wiring.</p>
        </aside>
      </div>
      <AtTheMachine v-if="open" :card="card" :from="from" @close="leave" />
    </template>
  </div>
</template>
