<script setup lang="ts">
import { computed } from 'vue'
import { freshId } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useStageView } from '../../state/useStageView'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import ToneNote from '../../ui/ToneNote.vue'
import TextField from '../../ui/TextField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import { money } from '../../ui/format'
import LeftOpenPart from '../../parts/LeftOpenPart.vue'
import PurchasesPart from './PurchasesPart.vue'

/** Everything the job needs, once: what each stage asks for, priced and shared out among suppliers. */
const job = useJob()
const { view, failed } = useStageView('order')
const own = computed(() => job.document?.order ?? [])
const groups = computed(() => {
  const lines = view.value?.lines ?? []
  const names = [
    ...new Set(lines.map((l) => (l.packs ? (l.supplier ?? 'no supplier named') : l.why_not ? 'not priced' : 'from the shelf'))),
  ]
  return names.map((name) => ({
    name,
    order: view.value?.orders.find((o) => (o.supplier ?? 'no supplier named') === name) ?? null,
    lines: lines.filter((l) => (l.packs ? (l.supplier ?? 'no supplier named') : l.why_not ? 'not priced' : 'from the shelf') === name),
  }))
})
</script>

<template>
  <div class="max-w-[1180px]" data-testid="order">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">Order</h2>
      <RouterLink class="btn" :to="{ name: 'suppliers' }">Suppliers and prices</RouterLink>
      <template v-if="view && (view.lines.length || view.purchases.length)">
        <a class="btn" :href="`/api/jobs/${job.id}/order/file?kind=pdf`" download>PDF</a>
        <a class="btn" :href="`/api/jobs/${job.id}/order/file?kind=csv`" download>CSV</a>
      </template>
    </div>
    <FailNote :text="failed" />
    <template v-if="view">
      <PurchasesPart v-if="view.purchases.length" class="mb-2" :purchases="view.purchases" />
      <p v-if="view.purchases.length" class="mb-5" data-testid="all">
        All parts, ordered and still to be had: <span v-if="view.all_unpriced.length" class="text-brick">at least </span
        ><b class="num">{{ money(view.all_cents) }}</b> <span class="unit">{{ view.currency }}</span>, shipping among it.
      </p>
      <EmptyBox v-if="view.lines.length === 0">{{
        view.purchases.length ? 'Nothing more is wanted.' : 'Nothing is needed yet: choose a part, a cure or a feed, or take a plan.'
      }}</EmptyBox>
      <template v-else>
        <p class="mb-3" data-testid="sum">
          <span v-if="view.purchases.length" class="mr-2">Still to be had:</span>
          <span v-if="view.unpriced.length" class="text-brick">at least </span><b class="num text-3xl">{{ money(view.cents) }}</b>
          <span class="unit ml-1">{{ view.currency }}</span>
          <span v-if="view.shipping_cents" class="ml-3 text-dim">shipping {{ money(view.shipping_cents) }} among it</span>
          <span v-if="view.tax.percent" class="ml-3 text-dim"
            >tax <span class="num">{{ view.tax.percent }}</span> %
            {{
              view.tax.added ? `added: ${money(view.tax.cents)}, with it ${money(view.tax.total_cents)}` : `in it: ${money(view.tax.cents)}`
            }}</span
          >
        </p>
        <ToneNote v-for="l in view.left_out" :key="l" tone="doubt" class="mb-3">{{ l }}</ToneNote>
        <ToneNote v-if="view.stuck" tone="bad" class="mb-3">This can’t be ordered as it is: {{ view.stuck }}.</ToneNote>
        <ToneNote v-if="view.unpriced.length" tone="doubt" class="mb-3">No price is known of: {{ view.unpriced.join(', ') }}.</ToneNote>
        <section v-for="g in groups" :key="g.name" class="mb-5" :data-supplier="g.name">
          <div class="flex flex-wrap items-center gap-3">
            <h3 class="mr-auto text-lg">{{ g.name }}</h3>
            <button v-if="g.order" type="button" class="btn" :disabled="job.readonly" @click="job.act('order_place', g.order.supplier_id)">
              Put down as ordered
            </button>
            <button
              v-else-if="g.name === 'not priced'"
              type="button"
              class="btn"
              :disabled="job.readonly"
              @click="job.act('order_place', 'unpriced')"
            >
              Put down as ordered
            </button>
            <button
              v-else-if="g.name === 'from the shelf'"
              type="button"
              class="btn"
              :disabled="job.readonly"
              @click="job.act('order_place', 'shelf')"
            >
              Take from the shelf
            </button>
          </div>
          <p v-if="g.order" class="text-dim">
            {{ g.order.mode }}, goods <span class="num">{{ money(g.order.goods_cents) }}</span>, shipping
            <span class="num">{{ money(g.order.shipping_cents) }}</span><template v-if="g.order.lead_days !== null"
              >, here in {{ g.order.lead_days }} days</template
            >
          </p>
          <div class="overflow-x-auto">
            <table class="sheet w-full">
              <thead>
                <tr>
                  <th>what</th>
                  <th class="r">wanted</th>
                  <th class="r">shelf</th>
                  <th class="r">buy</th>
                  <th>article</th>
                  <th>needed by</th>
                  <th class="r">price</th>
                </tr>
              </thead>
              <tbody>
                <tr v-for="l in g.lines" :key="l.key" :data-line="l.key">
                  <td>
                    <details>
                      <summary class="min-h-11 cursor-pointer py-2">
                        <b class="mr-2">{{ l.name }}</b><span class="text-sm text-dim"
                          >for {{ l.why.length === 1 ? l.why[0].text : `${l.why.length} checks` }}</span
                        >
                      </summary>
                      <p v-for="(w, i) in l.why" :key="i" class="py-0.5">
                        <RouterLink
                          class="text-brass underline"
                          :to="{ name: w.stage, params: { id: job.id, subject: w.subject ?? undefined } }"
                          >{{ w.label }}</RouterLink
                        >
                        {{ w.text }}: {{ w.pieces }}
                      </p>
                      <p v-if="l.spare" class="text-dim">{{ l.spare }} more to lie by.</p>
                    </details>
                  </td>
                  <td class="r num">{{ l.pieces + l.spare }}</td>
                  <td class="r num">{{ l.from_stock || '–' }}</td>
                  <td class="r whitespace-nowrap">
                    <template v-if="l.packs"
                      ><span class="num">{{ l.packs }}</span
                      ><span v-if="l.pack > 1" class="text-dim"> of {{ l.pack }}</span></template
                    ><template v-else>–</template>
                  </td>
                  <td class="num">{{ l.article ?? '' }}</td>
                  <td class="text-dim">{{ l.needed_by }}</td>
                  <td class="r num">
                    <span v-if="l.why_not" class="text-brick">{{ l.why_not }}</span><template v-else>{{ money(l.cents) }}</template>
                  </td>
                </tr>
              </tbody>
            </table>
          </div>
        </section>
      </template>
      <LeftOpenPart v-if="view.open.length" class="mb-5" :points="view.open" />
      <section aria-labelledby="own-head">
        <div class="mb-2 flex flex-wrap items-center gap-3">
          <h3 id="own-head" class="mr-auto text-lg">Added by hand</h3>
          <button
            type="button"
            class="btn"
            :disabled="job.readonly"
            @click="job.edit([{ op: 'add', at: '/order', value: { id: freshId(), name: 'Something else' } }])"
          >
            Add a line
          </button>
        </div>
        <div v-for="r in own" :key="r.id" class="mb-2 flex flex-wrap items-end gap-3">
          <div class="min-w-48 flex-1"><TextField :at="`/order/${r.id}/name`" label="What" /></div>
          <div class="w-24"><QuantityField :at="`/order/${r.id}/count`" label="How many" unit="" :step="1" /></div>
          <div class="w-32"><QuantityField :at="`/order/${r.id}/price_cents`" label="Price of one" unit="" cents /></div>
          <div class="min-w-36 flex-1"><TextField :at="`/order/${r.id}/for`" label="For" /></div>
          <button
            type="button"
            class="btn btn-bare"
            :aria-label="`Take out ${r.name}`"
            @click="job.edit([{ op: 'remove', at: `/order/${r.id}` }])"
          >
            take out
          </button>
        </div>
      </section>
    </template>
  </div>
</template>
