<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useJob } from '../../state/useJob'
import { useStageView } from '../../state/useStageView'
import Caution from '../../ui/Caution.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import FigureValue from '../../ui/FigureValue.vue'
import ToneNote from '../../ui/ToneNote.vue'
import { money, toneOf } from '../../ui/format'
import ComparePart from './ComparePart.vue'
import ConditionsPart from './ConditionsPart.vue'
import FrontPicture from './FrontPicture.vue'
import QuotePart from './QuotePart.vue'
import { compared, LETTERS, points, type Found } from './points'
import { usePlanRun } from './usePlanRun'

const job = useJob()
const { view, failed } = useStageView('plan')
const plan = usePlanRun()
const chosen = ref<string | null>(null)
const held = ref<string[]>([])
const all = computed(() => points(plan.front.value, plan.best.value))
const shown = computed(() => all.value.find((p) => p.key === chosen.value) ?? plan.best.value ?? all.value.at(-1) ?? null)
const searching = computed(() => plan.run.value !== null && plan.ended.value === '')
const behind = computed(
  () => plan.run.value !== null && job.view !== null && plan.run.value.revision !== job.view.revision && !plan.run.value.live,
)
const beside = computed(() =>
  held.value.flatMap((key, i) => {
    const found = all.value.find((p) => p.key === key)
    return found ? [{ letter: LETTERS[i], plan: found }] : []
  }),
)
const letters = computed(() => Object.fromEntries(beside.value.map((b) => [b.plan.key, b.letter])))
const status = computed(() => {
  const p = plan.progress.value
  if (plan.ended.value === 'failed') return 'The search broke off. Search again.'
  if (searching.value && !p) return `looking at what fits: ${plan.tried.value} tried`
  return [p?.text, plan.ended.value === 'stopped' ? 'stopped' : ''].filter(Boolean).join(', ')
})

// The best is beside the job as it stands as soon as there is one.
watch(plan.proved, (yes) => {
  if (yes && plan.best.value) held.value = [plan.best.value.key]
})
function take(found: Found) {
  void job.act('plan_take', found.key)
}
</script>

<template>
  <div class="max-w-[1180px]" data-testid="plan">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">Plan</h2>
      <span
        v-if="status"
        role="status"
        class="font-semibold"
        :class="plan.proved.value ? 'text-moss' : 'text-dim'"
        data-testid="plan-status"
        >{{ status }}</span
      >
      <button v-if="searching" type="button" class="btn" @click="plan.act('stop')">Stop</button>
      <template v-else>
        <button v-if="plan.ended.value === 'stopped'" type="button" class="btn" @click="plan.act('go_on')">Go on</button>
        <button type="button" class="btn btn-main" :disabled="job.readonly" @click="plan.search()">
          {{ plan.run.value ? 'Search again' : 'Search' }}
        </button>
      </template>
    </div>
    <FailNote :text="failed || plan.failed.value" />
    <template v-if="view">
      <Caution of="law" class="mb-3" />
      <ConditionsPart :view="view" />
      <ToneNote v-if="plan.refused.value" tone="bad" class="mb-3">{{ plan.refused.value }}</ToneNote>
      <ToneNote v-if="plan.stuck.value" tone="bad" class="mb-3" data-testid="stuck">
        <b>No plan meets all of it.</b> {{ plan.stuck.value.text }}
      </ToneNote>
      <ToneNote v-if="behind && all.length" tone="doubt" class="mb-3">The job or what is wanted has changed since this search.</ToneNote>
      <EmptyBox v-if="!plan.run.value">
        Every lamp with every part of the shelf that goes in, every way to feed each accessory, every cure for the signals, from every
        supplier: the best of all ways together. <span class="num">{{ view.priced }}</span> of
        <span class="num">{{ view.parts }}</span> parts on the shelf have a price.
        <RouterLink class="text-brass underline" :to="{ name: 'suppliers' }">Suppliers and prices</RouterLink>
      </EmptyBox>
      <div v-else-if="all.length" class="mb-5 grid gap-5 min-[1000px]:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]">
        <FrontPicture
          :points="all"
          :chosen="shown?.key ?? null"
          :letters="letters"
          :limit="view.wanted.money_cents ?? null"
          :axis="plan.axis.value"
          @pick="chosen = $event"
        />
        <section v-if="shown" aria-labelledby="shown-head" data-testid="shown">
          <h3 id="shown-head" class="mb-1 text-lg">
            {{ shown.key === plan.best.value?.key ? (plan.proved.value ? 'The best plan' : 'The best so far') : 'This plan' }}
          </h3>
          <p class="mb-2">
            <span v-if="shown.missing.length" class="text-brick">at least </span><b class="num text-3xl">{{ money(shown.cents) }}</b>
            <span class="unit">{{ view.currency }}</span>
            <span class="ml-3" :class="toneOf(shown.verdict)"><FigureValue :figure="shown.keeps" name="Kept" sigma /> kept</span>
          </p>
          <p v-if="shown.missing.length" class="mb-2 text-sm text-brick" data-testid="missing">
            Not in it: {{ shown.missing.join(', ') }}.
          </p>
          <ul class="mb-3">
            <li v-for="c in shown.changes" :key="c" class="border-t border-line py-1.5">{{ c }}</li>
            <li v-if="shown.changes.length === 0" class="text-dim">Nothing is changed or added.</li>
          </ul>
          <p v-if="plan.reading.value && shown.key === plan.best.value?.key" class="mb-2 text-dim">{{ plan.reading.value }}</p>
          <div v-if="plan.cheaper.value && shown.key === plan.best.value?.key" class="mb-3" data-testid="cheaper">
            <b>Why not cheaper?</b> {{ plan.cheaper.value.text }} {{ plan.cheaper.value.reading }}
            <button
              v-if="all.some((p) => p.key === plan.cheaper.value?.key)"
              type="button"
              class="btn btn-bare"
              @click="chosen = plan.cheaper.value?.key ?? null"
            >
              look at it
            </button>
          </div>
          <div class="flex flex-wrap gap-2">
            <button type="button" class="btn btn-main" :disabled="job.readonly" data-testid="take" @click="take(shown)">
              Take this plan
            </button>
            <button type="button" class="btn" :aria-pressed="held.includes(shown.key)" @click="held = compared(held, shown.key)">
              {{ held.includes(shown.key) ? 'compared' : 'Compare' }}
            </button>
          </div>
        </section>
      </div>
      <ComparePart
        v-if="beside.length"
        class="mb-5"
        :now="view.now"
        :cost="view.cost"
        :plans="beside"
        :taken="view.taken"
        @take="take"
        @drop="held = compared(held, $event)"
        @quote="(keys: string[]) => job.act('quote_make', keys.join('|'))"
      />
      <QuotePart v-if="view.quotes.length" class="mt-6 mb-5" :quotes="view.quotes" />
      <button type="button" class="btn mb-5" :disabled="job.readonly" data-testid="quote-now" @click="job.act('quote_make', 'now')">
        Quote the job as it stands
      </button>
      <details v-if="plan.leftOut.value.length" class="mb-5">
        <summary class="min-h-11 cursor-pointer py-2 font-semibold">Not thought of, and why: {{ plan.leftOut.value.length }}</summary>
        <ul>
          <li v-for="l in plan.leftOut.value" :key="l.what + l.why" class="border-t border-line py-1">
            {{ l.what }} <span class="text-dim">{{ l.why }}</span>
          </li>
        </ul>
      </details>
    </template>
  </div>
</template>
