<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import LeftOpenPart from '../../parts/LeftOpenPart.vue'
import { useJob } from '../../state/useJob'
import { useStageView } from '../../state/useStageView'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'

type Cell = Schemas['FunctionCell']
type Saw = NonNullable<Cell['saw']>
type Row = Schemas['job_function_cell']
const SIDES = ['before', 'open', 'closed'] as const
type Side = (typeof SIDES)[number]

/** Every lamp in every state: all as expected in one touch, what is not cell by cell. */
const job = useJob()
const route = useRoute()
const router = useRouter()
const side = computed<Side>(() => SIDES.find((s) => s === route.params.subject) ?? 'before')
const { view, failed } = useStageView('function', () => ({ side: side.value }))
const at = computed(() => `/function/${side.value}`)
const fresh = computed(() => (view.value?.side === side.value ? view.value : null))

/** What a meter says beside it stands with the readings, before and after. */
const checks = computed(() => `/checks/${side.value === 'before' ? 'before' : 'after'}`)
/** Tapped here, and on its way. */
const waiting = computed(
  () => new Map(job.queue.filter((e) => e.op === 'put' && e.at === at.value).map((e) => [(e.value as Row).id, (e.value as Row).saw])),
)
const gone = computed(
  () => new Set(job.queue.filter((e) => e.op === 'remove' && e.at.startsWith(`${at.value}/`)).map((e) => e.at.split('/')[3])),
)
const saw = (cell: Cell): Saw | null => (gone.value.has(cell.key) ? null : ((waiting.value.get(cell.key) as Saw | undefined) ?? cell.saw))
const picked = ref<string | null>(null)
const cells = computed(() => fresh.value?.lamps.flatMap((l) => l.cells) ?? [])
const pickedCell = computed(() => cells.value.find((c) => c.key === picked.value))
const pickedLamp = computed(() => fresh.value?.lamps.find((l) => l.cells.some((c) => c.key === picked.value)))
const untried = computed(() => cells.value.filter((c) => !saw(c)).length)

function row(cell: Cell, seen: Saw): Row {
  return { id: cell.key, saw: seen, expected: cell.expected, at: `${new Date().toISOString().slice(0, 19)}Z` }
}
function put(list: Cell[], seen: Saw) {
  if (list.length) job.edit(list.map((c) => ({ op: 'put' as const, at: at.value, value: row(c, seen) })))
}
/** What was tapped otherwise stays so. */
function allOk(list: Cell[]) {
  put(
    list.filter((c) => !saw(c)),
    'ok',
  )
}
const inState = (state: string) => cells.value.filter((c) => c.state === state)
const stateLabel = (key: string) => fresh.value?.states.find((s) => s.key === key)?.label ?? key
/** What can be seen where this should be. */
const offered = computed(() =>
  (fresh.value?.saw ?? []).filter((o) => pickedCell.value && fresh.value!.may[pickedCell.value.expected]?.includes(o.key)),
)
const sawLabel = (key: Saw) => fresh.value?.saw.find((s) => s.key === key)?.label ?? key
function pick(seen: Saw) {
  const cell = pickedCell.value
  if (!cell) return
  put([cell], seen)
  picked.value = null
}
function forget() {
  const cell = pickedCell.value
  if (cell?.saw) job.edit([{ op: 'remove', at: `${at.value}/${cell.key}` }])
  picked.value = null
}
function tap(cell: Cell) {
  if (!job.readonly) picked.value = picked.value === cell.key ? null : cell.key
}
const shownAs = (cell: Cell) => {
  const seen = saw(cell)
  return seen === null ? '' : seen === 'ok' ? '✓' : sawLabel(seen)
}
const options = computed(() => (fresh.value?.sides ?? []).map((s) => ({ key: s.key, label: s.label })))
function to(key: Side) {
  picked.value = null
  void router.push({ params: { subject: key } })
}
function diagnose(f: Schemas['FunctionView']['findings'][number]) {
  if (f.sign) return router.push({ name: 'signals', params: { id: job.id }, query: { sign: f.sign }, hash: '#diagnosis-head' })
  return router.push({ name: 'wiring', params: { id: job.id, subject: f.load_id } })
}
</script>

<template>
  <div>
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">Function check</h2>
      <ChoiceRow label="When" :options="options" :value="side" @pick="to($event)" />
    </div>
    <FailNote :text="failed" />
    <EmptyBox v-if="!fresh && !failed">Working out what each lamp should do …</EmptyBox>
    <EmptyBox v-else-if="fresh && !fresh.lamps.length">This machine has no lamps yet: enter them at Intake.</EmptyBox>
    <template v-if="fresh && fresh.lamps.length">
      <div class="mb-3 flex flex-wrap items-center gap-3">
        <button
          type="button"
          class="btn btn-main min-h-14"
          :disabled="job.readonly || untried === 0"
          data-testid="all-ok"
          @click="allOk(cells)"
        >
          {{ untried === cells.length ? 'All as expected' : 'The rest as expected' }}
        </button>
        <span role="status" class="text-dim" data-testid="untried">{{
          untried ? `${untried} of ${cells.length} not tried` : `all ${cells.length} tried`
        }}</span>
        <span class="text-dim">Touch a cell for what is not; touch a state for all in it.</span>
      </div>
      <div class="overflow-x-auto">
        <table class="function-check" data-testid="function-table">
          <thead>
            <tr>
              <th>lamp</th>
              <th v-for="s in fresh.states" :key="s.key" class="p-0">
                <button
                  type="button"
                  class="btn w-full justify-center px-1 text-sm leading-tight"
                  :disabled="job.readonly || inState(s.key).every(saw)"
                  :aria-label="`${s.label}: all as expected`"
                  @click="allOk(inState(s.key))"
                >
                  {{ s.label }}
                </button>
              </th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="l in fresh.lamps" :key="l.id">
              <th class="pr-3 font-semibold text-ink">
                {{ l.name }}<span v-if="l.new" class="block text-sm font-normal text-dim">new</span>
              </th>
              <td v-for="c in l.cells" :key="c.key" class="p-0">
                <button
                  type="button"
                  class="cell"
                  :class="[saw(c) === null ? 'text-dim' : saw(c) === 'ok' ? 'is-ok' : 'is-bad', picked === c.key ? 'is-picked' : '']"
                  :aria-label="`${l.name}, ${stateLabel(c.state)}: should be ${fresh.words[c.expected]}, ${saw(c) ? sawLabel(saw(c)!) : 'not tried'}`"
                  :data-cell="c.key"
                  @click="tap(c)"
                >
                  <span :class="c.expected === 'off' ? 'text-dim' : 'font-bold'">{{ fresh.words[c.expected] }}</span>
                  <span class="block min-h-5 text-sm leading-tight font-bold"
                    >{{ shownAs(c)
                    }}<span v-if="c.wrong && saw(c) === null" class="font-normal text-brick"
                      >solved: {{ fresh.words[c.foretold!] }}</span
                    ></span
                  >
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <div v-if="pickedCell" class="sticky bottom-0 mt-2 border-2 border-brass bg-paper p-3" data-testid="saw">
        <p class="mb-2 text-lg">
          <b>{{ pickedLamp?.name }}, {{ stateLabel(pickedCell.state) }}</b
          >: should be {{ fresh.words[pickedCell.expected]
          }}<template v-if="pickedCell.foretold">; as solved: {{ fresh.words[pickedCell.foretold] }}</template>
        </p>
        <div class="flex flex-wrap gap-2">
          <button
            v-for="o in offered"
            :key="o.key"
            type="button"
            class="btn min-h-14"
            :aria-pressed="saw(pickedCell) === o.key"
            @click="pick(o.key)"
          >
            {{ o.label }}
          </button>
          <button v-if="saw(pickedCell)" type="button" class="btn btn-bare min-h-14" @click="forget">not tried</button>
        </div>
      </div>
      <section v-if="fresh.findings.length" class="mt-5" aria-labelledby="found-head" data-testid="function-findings">
        <h3 id="found-head" class="mb-1 text-lg">What is odd in it</h3>
        <ul>
          <li
            v-for="(f, i) in fresh.findings"
            :key="i"
            class="mb-1 flex flex-wrap items-center gap-3 border-l-4 px-3 py-1"
            :class="f.level === 'wrong' ? 'border-brick bg-brick-soft' : f.level === 'better' ? 'border-moss' : 'border-line text-dim'"
          >
            <span>{{ f.text }}</span>
            <button v-if="f.level === 'wrong'" type="button" class="btn" @click="diagnose(f)">
              {{ f.sign ? 'Find the cause' : 'See its wiring' }}
            </button>
          </li>
        </ul>
      </section>
      <section class="mt-5" aria-labelledby="beside-head" data-testid="beside">
        <h3 id="beside-head" class="mb-1 text-lg">Beside the lamps</h3>
        <div class="grid grid-cols-2 gap-3 sm:grid-cols-4">
          <QuantityField v-if="side !== 'before'" :at="`${checks}/rest_v`" label="Volts at rest" unit="V" />
          <QuantityField :at="`${checks}/idle_v`" label="Volts at idle" unit="V" />
          <QuantityField v-if="side !== 'before'" :at="`${checks}/cruise_v`" label="Volts at cruise" unit="V" />
          <QuantityField :at="`${checks}/key_off_a`" label="Draw with the key off" unit="A" :step="0.001" />
        </div>
        <div v-if="side !== 'before'" class="mt-2 flex flex-wrap gap-6">
          <YesNo at="/function/seen/fuses" label="every fuse in, of its rating" />
          <YesNo at="/function/seen/locks" label="both locks looked at, nothing pinched" />
        </div>
      </section>
      <LeftOpenPart
        v-if="fresh.points.length"
        :points="fresh.points"
        :title="side === 'before' ? 'Before it is opened' : 'Before it is closed'"
        class="mt-5"
      />
    </template>
  </div>
</template>

<style scoped>
.function-check th,
.function-check td {
  border: 1px solid var(--line);
}
.function-check th:first-child {
  padding: 0.25rem 0.6rem;
  position: sticky;
  left: 0;
  min-width: 9rem;
  background: var(--paper);
  text-align: left;
}
.cell {
  display: block;
  width: 100%;
  min-width: 5.2rem;
  min-height: 3.4rem;
  padding: 0.2rem;
  text-align: center;
}
.cell:hover {
  background: var(--shade);
}
.is-ok {
  background: var(--moss-soft);
  color: var(--moss);
}
.is-bad {
  background: var(--brick-soft);
  color: var(--brick);
}
.is-picked {
  outline: 3px solid var(--brass);
  outline-offset: -3px;
}
</style>
