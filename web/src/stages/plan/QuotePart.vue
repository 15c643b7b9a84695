<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import FigureValue from '../../ui/FigureValue.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import { money, plain, toneOf } from '../../ui/format'

/** What is offered to the owner: the latest quote to work on, those before it to look up. */
const props = defineProps<{ quotes: Schemas['QuoteRow'][] }>()
const job = useJob()
const by = ref('')
const quote = computed(() => props.quotes[0])
const before = computed(() => props.quotes.slice(1))
const firm = computed(() => quote.value.state === 'accepted' || job.readonly)
const at = computed(() => `/quotes/${quote.value.id}`)
const paper = (q: Schemas['QuoteRow']) => `/api/jobs/${job.id}/quotes/${q.id}/file`
const TONES: Record<string, string> = { accepted: 'text-moss', expired: 'text-brick', open: 'text-dim' }
type Offer = Schemas['QuoteOffer']
const bought = (o: Offer) => o.lines.filter((l) => !l.used_up)
const usedUp = (o: Offer) => o.lines.filter((l) => l.used_up)
const holds = (q: Schemas['QuoteRow']) => (q.valid_until ? `, holds until ${q.valid_until}` : '')

async function accept(offer: Offer) {
  await job.act('quote_accept', `${quote.value.id}/${offer.id}/${by.value.trim()}`)
  if (quote.value.state === 'accepted') by.value = ''
}
</script>

<template>
  <section aria-labelledby="quote-head" data-testid="quote">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h3 id="quote-head" class="text-lg">Quote {{ quote.number }}</h3>
      <span class="mr-auto" :class="TONES[quote.state]" data-testid="quote-state"
        >{{ quote.words }}<span class="text-dim">; made on {{ quote.made_on }}{{ holds(quote) }}</span></span
      >
      <a class="btn" :href="paper(quote)" download>PDF, one page</a>
      <button
        v-if="!firm"
        type="button"
        class="btn btn-bare"
        :aria-label="`Take quote ${quote.number} out`"
        @click="job.edit([{ op: 'remove', at }])"
      >
        take out
      </button>
    </div>
    <div v-if="!firm" class="mb-3 flex flex-wrap items-end gap-3">
      <div class="min-w-64 flex-1"><TextField :at="`${at}/intro`" label="First words" /></div>
      <div class="w-28"><QuantityField :at="`${at}/valid_days`" label="Holds for, days" unit="" :step="1" /></div>
    </div>
    <p v-else-if="quote.intro" class="mb-2">{{ quote.intro }}</p>
    <div class="overflow-x-auto">
      <table class="sheet w-full [&_tbody_td]:align-top [&_tbody_th]:align-top">
        <thead>
          <tr>
            <th><span class="sr-only">what</span></th>
            <th v-for="o in quote.offers" :key="o.id" :data-offer="o.name">
              <TextField v-if="!firm" :at="`${at}/offers/${o.id}/name`" :label="`Name of ${o.name}`" hide-label />
              <template v-else>{{ o.name }}</template>
              <span v-if="quote.accepted?.offer_id === o.id" class="block font-normal text-moss"
                >accepted{{ o.taken ? ', taken' : '' }}</span
              >
            </th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">what changes</th>
            <td v-for="o in quote.offers" :key="o.id">
              <span v-for="c in o.changes" :key="c" class="block">{{ c }}</span>
              <span v-for="l in o.left_out" :key="l" class="block text-dim">left out: {{ l }}</span>
            </td>
          </tr>
          <tr>
            <th scope="row">parts</th>
            <td v-for="o in quote.offers" :key="o.id">
              <span v-for="l in bought(o)" :key="l.name" class="flex justify-between gap-3"
                ><span>{{ l.count > 1 ? `${l.count} × ` : '' }}{{ l.name }}</span
                ><span class="num">{{ l.cents === undefined ? 'no price' : money(l.cents) }}</span></span
              >
              <details v-if="usedUp(o).length">
                <summary class="min-h-11 cursor-pointer py-2 text-dim">used up: {{ usedUp(o).length }}</summary>
                <span v-for="l in usedUp(o)" :key="l.name" class="flex justify-between gap-3 text-sm"
                  ><span>{{ l.count }} × {{ l.name }}</span
                  ><span class="num">{{ l.cents === undefined ? 'no price' : money(l.cents) }}</span></span
                >
              </details>
              <span v-if="o.shipping_cents" class="flex justify-between gap-3 text-dim"
                ><span>shipping</span><span class="num">{{ money(o.shipping_cents) }}</span></span
              >
            </td>
          </tr>
          <tr>
            <th scope="row">work</th>
            <td v-for="o in quote.offers" :key="o.id">
              <span v-for="w in o.work" :key="w.name" class="flex justify-between gap-3"
                ><span
                  >{{ w.name }}, <span class="num">{{ plain(w.minutes, 0) }}</span> min</span
                ><span class="num">{{ w.cents === undefined ? '' : money(w.cents) }}</span></span
              >
            </td>
          </tr>
          <tr>
            <th scope="row">{{ quote.tax === 'added' ? 'tax, added' : 'tax, in it' }}</th>
            <td v-for="o in quote.offers" :key="o.id" class="num">{{ money(o.tax_cents) }}</td>
          </tr>
          <tr>
            <th scope="row">total</th>
            <td v-for="o in quote.offers" :key="o.id" data-total>
              <span v-if="o.missing?.length" class="text-brick">at least </span><b class="num text-2xl">{{ money(o.total_cents) }}</b>
              <span class="unit ml-1">{{ quote.currency }}</span>
              <span v-for="m in o.missing" :key="m" class="block text-sm text-brick">{{ m }}</span>
            </td>
          </tr>
          <tr>
            <th scope="row">kept</th>
            <td v-for="o in quote.offers" :key="o.id">
              <span v-for="k in o.keeps" :key="k.label" class="block"
                >{{ k.label }}:
                <template v-if="k.before"
                  ><FigureValue :figure="k.before" :name="`${k.label}, kept before`" sigma /><span class="text-dim">
                    before,
                  </span></template
                ><span v-if="k.after" :class="toneOf(k.verdict)"
                  ><FigureValue :figure="k.after" :name="`${k.label}, kept after`" sigma /></span
                ><span v-else class="text-dim">not known</span></span
              >
            </td>
          </tr>
          <tr>
            <th scope="row">light, dipped</th>
            <td v-for="o in quote.offers" :key="o.id">
              <template v-if="o.light">{{ plain(o.light, 1) }} × as it came in, as claimed</template
              ><span v-else class="text-dim">not known</span>
            </td>
          </tr>
          <tr>
            <th scope="row">to know</th>
            <td v-for="o in quote.offers" :key="o.id">
              <span v-for="m in o.mind" :key="m" class="block text-sm">{{ m }}</span>
            </td>
          </tr>
          <tr v-if="!firm && quote.state === 'open'">
            <th scope="row"><label :for="`by-${quote.id}`">accepted by</label></th>
            <td :colspan="quote.offers.length">
              <form class="flex flex-wrap items-center gap-2" @submit.prevent>
                <input :id="`by-${quote.id}`" v-model="by" class="field w-60" maxlength="80" autocomplete="off" placeholder="name" />
                <button
                  v-for="o in quote.offers"
                  :key="o.id"
                  type="button"
                  class="btn"
                  :disabled="!by.trim()"
                  :data-accept="o.name"
                  @click="accept(o)"
                >
                  {{ o.name }} is accepted
                </button>
              </form>
            </td>
          </tr>
          <tr v-else-if="quote.accepted && !job.readonly">
            <th scope="row"><span class="sr-only">take</span></th>
            <td v-for="o in quote.offers" :key="o.id">
              <button
                v-if="o.key && o.id === quote.accepted.offer_id && !o.taken"
                type="button"
                class="btn btn-main"
                data-testid="take-accepted"
                @click="job.act('plan_take', o.key)"
              >
                Take {{ o.name }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <TextField v-if="!firm" :at="`${at}/notes`" class="mt-2" label="Notes" :lines="2" />
    <p v-else-if="quote.notes" class="text-dim">{{ quote.notes }}</p>
    <details v-if="before.length" class="mt-3">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Quotes before it: {{ before.length }}</summary>
      <p v-for="q in before" :key="q.id" class="flex flex-wrap items-center gap-3 border-t border-line py-1">
        <span class="mr-auto"
          >Quote {{ q.number }}, {{ q.made_on }}: <span :class="TONES[q.state]">{{ q.words }}</span></span
        >
        <span v-for="o in q.offers" :key="o.id"
          >{{ o.name }} {{ o.missing?.length ? 'at least ' : '' }}<span class="num">{{ money(o.total_cents) }}</span></span
        >
        <a class="btn" :href="paper(q)" download>PDF</a>
      </p>
    </details>
  </section>
</template>
