<script setup lang="ts">
import { computed } from 'vue'
import { ofJob, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import { digitsFor, figureText, money, plain } from '../../ui/format'
import LeftOpenPart from '../../parts/LeftOpenPart.vue'
import BeamPart from './BeamPart.vue'
import RechecksPart from './RechecksPart.vue'

const job = useJob()
const reference = useReference()
const document = computed(() => job.document!)
const { view, failed } = useStageView('hand_over')
const handed = computed(() => document.value.handed_over)
/** It is out of the shop, and not in the bay again since. */
const out = computed(() => !!handed.value?.at && !handed.value.back_at)
const stale = computed(() => job.ticket?.stages.find((s) => s.stage === 'hand_over')?.state === 'stale')
const rows = computed(() =>
  (view.value?.scenarios ?? []).flatMap((s) =>
    view.value!.circuits.flatMap((c) => {
      const of = (side: string) => s.lines.find((l) => l.side === side && l.circuit === c.id)
      const [before, lamps, after] = [of('before'), of('lamps'), of('after')]
      return before && lamps && after
        ? [
            {
              key: s.id + c.id,
              name: view.value!.circuits.length > 1 ? `${s.name}, ${c.name}` : s.name,
              running: s.engine === 'running',
              rpm: s.rpm,
              before,
              lamps,
              after,
            },
          ]
        : []
    }),
  ),
)
const swaps = computed(() => view.value?.changed ?? [])
const added = computed(() => document.value.loads.filter((l) => l.wanted && l.taken && !l.fed_by))
const refused = computed(() => document.value.loads.filter((l) => l.wanted && !l.taken))
const views = computed(() => Object.fromEntries((view.value?.loads ?? []).map((l) => [l.id, l])))
/** What the card and the function check leave to say. */
const record = computed(() =>
  [
    { id: 'sheet-done', head: 'Done', lines: view.value?.done ?? [] },
    { id: 'sheet-cut', head: 'Cut, and what stays when it is taken out', lines: view.value?.cut ?? [] },
    { id: 'sheet-tried', head: 'Function check', lines: view.value?.tried ?? [] },
    { id: 'sheet-warranty', head: 'Warranty', lines: (view.value?.warranty ?? []).map((w) => `${w.name}: ${w.words}`) },
  ].filter((p) => p.lines.length > 0),
)
const today = new Intl.DateTimeFormat(undefined, { dateStyle: 'long' }).format(new Date())

function print() {
  window.print()
}
/** Without its doubt, which the figures above carry. */
const drawn = (figure: Schemas['Figure'] | null, none: string) =>
  figure ? (figure.value === null ? 'unknown' : plain(figure.value, digitsFor('A', figure.value, true))) : none
function amps(id: string, side: 'before' | 'after') {
  const figure = views.value[id]?.[side]
  return figure ? figureText(figure) : '–'
}
</script>

<template>
  <div class="max-w-[880px]">
    <div class="no-print mb-4 flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">Hand over</h2>
      <span v-if="handed?.at && handed.back_at" class="text-dim"
        >in the bay again since {{ new Date(handed.back_at).toLocaleDateString() }}</span
      >
      <span v-else-if="handed?.at && !stale" class="text-moss">handed over {{ new Date(handed.at).toLocaleString() }}</span>
      <span v-else-if="stale" class="text-brick">changed since it was handed over</span>
      <button type="button" class="btn" @click="print">Print</button>
      <a class="btn" :href="ofJob(job.id, 'hand-over.pdf')" download data-testid="signed-pdf">{{
        handed?.files ? 'The signed sheet, PDF' : 'PDF'
      }}</a>
      <a class="btn" :href="ofJob(job.id, 'file', { kind: 'job' })" download>Job file</a>
      <template v-if="out">
        <RouterLink class="btn" :to="{ name: 'machine', params: { id: document.machine_id ?? job.id } }">Its book</RouterLink>
        <button type="button" class="btn" @click="job.act('back_in_bay')">Back in the bay</button>
      </template>
      <button v-if="!out || stale" type="button" class="btn btn-main" @click="job.act('hand_over')">Mark as handed over</button>
    </div>
    <FailNote :text="failed" />
    <p v-if="handed?.files && stale" class="no-print mb-3 border-l-4 border-brass px-3 py-1" data-testid="signed-note">
      What was signed stays as it was: it lies in the signed sheet. Below stands the machine as it is now.
    </p>
    <LeftOpenPart v-if="view && view.left_open.length" :points="view.left_open" class="no-print mb-4" />
    <RechecksPart v-if="view" :rechecks="view.rechecks" :handed="out" :words="view.look_again" class="no-print mb-4" />
    <EmptyBox v-if="!view && !failed">Drawing up the sheet …</EmptyBox>
    <article v-if="view" class="sheet-page border-2 border-line bg-leaf p-6 print:border-0 print:p-0" aria-label="Hand-over sheet">
      <header class="mb-3 flex items-end justify-between border-b-2 border-ink pb-2">
        <div>
          <p class="text-2xl font-bold">{{ document.name }}</p>
          <p class="text-dim">{{ [document.bay, document.fleet, document.machine.year].filter(Boolean).join(' · ') }}</p>
        </div>
        <p class="text-right">Lighting conversion, amps before and after<br />{{ today }}</p>
      </header>
      <div class="overflow-x-auto print:overflow-visible">
        <table class="sheet mb-3 w-full text-[0.95em] max-lg:text-[0.88em]">
          <thead>
            <tr>
              <th>when</th>
              <th class="r">rpm</th>
              <th v-for="step in reference.tables?.steps" :key="step" class="r">{{ step }}, kept</th>
              <th class="r">volts, before</th>
              <th class="r">after</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="r in rows" :key="r.key">
              <td>
                {{ r.name }}<span v-if="r.running && r.after.battery" class="block text-sm text-dim">{{ r.after.battery }}</span>
              </td>
              <template v-if="r.running">
                <td class="r num whitespace-nowrap">{{ r.rpm === null ? '?' : plain(r.rpm, 0) }}</td>
                <td class="r num whitespace-nowrap">{{ figureText(r.before.keeps) }}</td>
                <td class="r num whitespace-nowrap">{{ figureText(r.lamps.keeps) }}</td>
                <td class="r num font-bold whitespace-nowrap">
                  {{ figureText(r.after.keeps)
                  }}<span v-if="r.after.verdict === 'too_close'" class="block text-sm font-normal">{{
                    reference.verdict(r.after.verdict)
                  }}</span>
                </td>
                <td class="r num whitespace-nowrap">{{ figureText(r.before.system_v) }}</td>
                <td class="r num whitespace-nowrap">{{ figureText(r.after.system_v) }}</td>
              </template>
              <template v-else>
                <td class="r">–</td>
                <td class="r">{{ r.before.lasts.value === null ? '–' : `lasts ${figureText(r.before.lasts)}` }}</td>
                <td class="r">{{ r.lamps.lasts.value === null ? '–' : `lasts ${figureText(r.lamps.lasts)}` }}</td>
                <td class="r font-bold">{{ r.after.lasts.value === null ? '–' : `lasts ${figureText(r.after.lasts)}` }}</td>
                <td class="r num whitespace-nowrap">{{ r.before.system_v.value === null ? '–' : figureText(r.before.system_v) }}</td>
                <td class="r num whitespace-nowrap">{{ r.after.system_v.value === null ? '–' : figureText(r.after.system_v) }}</td>
              </template>
            </tr>
          </tbody>
        </table>
      </div>
      <h3 class="mt-2 mb-1 font-bold">Changed</h3>
      <p v-if="swaps.length === 0 && added.length === 0" class="text-dim">Nothing was changed.</p>
      <div v-else class="overflow-x-auto print:overflow-visible">
        <table class="sheet w-full text-[0.95em]">
          <tbody>
            <tr v-for="c in swaps" :key="c.id">
              <td>
                {{ c.name }}<span v-if="c.count > 1"> ×{{ c.count }}</span>
              </td>
              <td>{{ c.part ?? 'taken off' }}</td>
              <td class="r num whitespace-nowrap">
                <span v-for="f in c.functions" :key="f.word" class="block print:ml-3 print:inline">
                  <span v-if="c.functions.length > 1" class="mr-1 text-dim">{{ f.word }}</span>
                  {{ drawn(f.before, '–') }} → {{ drawn(f.after, '0') }} A
                </span>
              </td>
            </tr>
            <tr v-for="(r, i) in view.beside" :key="i">
              <td>
                {{ r.name }}<span v-if="r.count > 1"> ×{{ r.count }}</span>
              </td>
              <td>{{ r.for ? `for ${r.for}` : '' }}</td>
              <td />
            </tr>
            <tr v-for="l in added" :key="l.id">
              <td>{{ l.name }}</td>
              <td>added</td>
              <td class="r num whitespace-nowrap">{{ amps(l.id, 'after') }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <BeamPart :lines="view.beam" :pictures="view.pictures" />
      <template v-for="part in record" :key="part.head">
        <h3 class="mt-3 mb-1 font-bold">{{ part.head }}</h3>
        <ul class="list-disc pl-5 text-[0.95em]" :data-testid="part.id">
          <li v-for="line in part.lines" :key="line">{{ line }}</li>
        </ul>
      </template>
      <p v-if="refused.length" class="mt-2">Wanted, not fitted: {{ refused.map((l) => l.name).join(', ') }}.</p>
      <p v-if="view.bill.cents || view.bill.unpriced.length" class="mt-1" data-testid="bill">
        Parts {{ view.bill.unpriced.length ? 'at least ' : '' }}{{ money(view.bill.cents)
        }}<template v-if="view.bill.unpriced.length">, and without a price: {{ view.bill.unpriced.join(', ') }}</template
        >.
      </p>
      <template v-if="view.left_open.length">
        <h3 class="mt-3 mb-1 font-bold">Left open</h3>
        <ul class="list-disc pl-5 text-[0.95em]" data-testid="sheet-open">
          <li v-for="p in view.left_open" :key="p.key">{{ p.text }} {{ p.reason ? `Left so: ${p.reason}` : 'Not answered for.' }}</li>
        </ul>
      </template>
      <h3 class="mt-3 mb-1 font-bold">The rider must know</h3>
      <ul class="list-disc pl-5 text-[0.95em]">
        <li v-for="line in view.must_know" :key="line">{{ line }}</li>
        <li v-if="view.look_again">{{ view.look_again }}</li>
      </ul>
      <p v-if="document.note" class="mt-3 border-t border-line pt-2 whitespace-pre-line">{{ document.note }}</p>
      <p class="mt-6 flex gap-10 text-sm print:mt-1">
        <span class="flex-1 border-t border-ink pt-1">technician</span><span class="flex-1 border-t border-ink pt-1">rider</span>
      </p>
    </article>
  </div>
</template>

<style scoped>
@media print {
  .sheet-page {
    font-size: 10.4px;
    line-height: 1.24;
  }
  .sheet-page :deep(h3) {
    margin-block: 0.25rem 0;
  }
  .sheet-page :deep(td),
  .sheet-page :deep(th) {
    padding: 0.1rem 0.4rem;
  }
}
</style>
