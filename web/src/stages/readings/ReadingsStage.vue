<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { freshId, ofJob } from '../../api/client'
import { stageFor } from '../registry'
import { useInstruments } from '../../state/useInstruments'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { focusOn } from '../../ui/focusOn'
import { plain } from '../../ui/format'
import QuantityField from '../../ui/QuantityField.vue'
import BaselinePart from './BaselinePart.vue'
import ChargingPart from './ChargingPart.vue'
import ReadingPane from './ReadingPane.vue'
import { useSubjects, type Subject } from './useSubjects'
import SumsPart from './SumsPart.vue'
import TableSheet from './TableSheet.vue'

const job = useJob()
const route = useRoute()
const router = useRouter()
const { subjects, view: shown, failed } = useSubjects()
const VIEWS = [
  { key: 'one', label: 'One at a time' },
  { key: 'sums', label: 'Several at once' },
  { key: 'table', label: 'Table' },
  { key: 'charging', label: 'Charging' },
  { key: 'baseline', label: 'Baseline sheet' },
] as const
type View = (typeof VIEWS)[number]['key']
const view = computed<View>(() => VIEWS.find((v) => v.key === route.query.view)?.key ?? 'one')
const lamps = stageFor('new machine')
const guided = ref(false)
const instruments = useInstruments()
void instruments.refresh()
const importing = ref<'loads' | 'readings' | null>(null)
const current = computed(
  () => subjects.value.find((s) => s.key === route.params.subject) ?? subjects.value.find((s) => !s.measured) ?? subjects.value[0],
)

function go(key: string) {
  void router.replace({ name: 'readings', params: { id: job.id, subject: key } })
}
/** A figure typed into an empty row of the table begins its reading. */
function typedInto(subject: Subject, key: 'amps' | 'volts', event: Event) {
  const text = (event.target as HTMLInputElement).value.trim()
  if (!text) return
  const id = freshId()
  const at = new Date().toISOString()
  const value = {
    id,
    load_id: subject.loadId,
    choice_id: subject.choiceId,
    kind: 'settled',
    volts_at: 'lamp',
    taken_on: 'this_machine',
    at,
  }
  const base = subject.choiceId ? {} : { base: subject.base }
  job.edit([{ op: 'add', at: '/readings', value: JSON.parse(JSON.stringify({ ...value, ...base })) }])
  job.type(`/readings/${id}/${key}`, text)
  focusOn(`/readings/${id}/${key === 'amps' ? 'volts' : 'amps'}`)
}
function look(at: View) {
  void router.push({ params: route.params, query: at === 'one' ? {} : { view: at } })
}
function next() {
  const i = subjects.value.findIndex((s) => s.key === current.value?.key)
  const later =
    [...subjects.value.slice(i + 1), ...subjects.value.slice(0, i)].find((s) => !s.measured) ??
    subjects.value[(i + 1) % subjects.value.length]
  go(later.key)
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-4 flex flex-wrap items-center gap-2">
      <h2 class="mr-auto text-xl">Readings</h2>
      <ChoiceRow label="How readings are entered" :options="VIEWS" :value="view" @pick="look" />
      <a class="btn" :href="ofJob(job.id, 'file', { kind: 'readings' })" download>Readings as CSV</a>
      <a class="btn" :href="ofJob(job.id, 'file', { kind: 'loads' })" download>Loads as CSV</a>
      <button type="button" class="btn" @click="importing = 'readings'">Take in CSV</button>
    </div>
    <FailNote :text="failed" />
    <p v-if="!shown" class="text-dim" role="status">{{ failed ? '' : 'Reading the job …' }}</p>
    <BaselinePart v-else-if="view === 'baseline'" :baseline="shown.baseline" @draw="go" @points="look('charging')" />
    <ChargingPart v-else-if="view === 'charging'" :points="shown.points" />
    <SumsPart v-else-if="view === 'sums'" :sums="shown.sums" />
    <EmptyBox v-else-if="subjects.length === 0">
      Nothing to measure yet.
      <RouterLink class="text-brass underline" :to="{ name: lamps, params: { id: job.id } }">Enter the lamps first.</RouterLink>
    </EmptyBox>

    <div v-else-if="view === 'one'" class="grid gap-6 min-[800px]:grid-cols-[17rem_minmax(0,1fr)]">
      <ol class="max-h-[70vh] overflow-y-auto border-t border-line max-[799px]:max-h-56" aria-label="What is to be measured">
        <li v-for="s in subjects" :key="s.key">
          <button
            type="button"
            class="flex min-h-12 w-full items-center gap-2 border-b border-line px-2 text-left"
            :class="current?.key === s.key ? 'bg-shade font-bold' : 'hover:bg-shade'"
            :aria-current="current?.key === s.key"
            @click="go(s.key)"
          >
            <span class="min-w-0 flex-1"
              ><span class="block truncate">{{ s.name }}</span
              ><span v-if="s.detail" class="block truncate text-sm font-normal text-dim">{{ s.detail }}</span></span
            >
            <span v-if="s.stale" class="text-sm text-brick">again</span>
            <span v-else-if="s.measured" class="num text-sm"
              >{{ s.amps === null ? '' : plain(s.amps, 2) }} <span class="unit">A</span></span
            >
            <span v-else-if="s.reading?.simulated" class="text-sm text-brick">simulated</span>
            <span v-else class="text-sm text-dim">not read</span>
          </button>
        </li>
      </ol>
      <ReadingPane v-if="current" :key="current.key" v-model:guided="guided" :subject="current" @next="next" />
    </div>

    <div v-else class="overflow-x-auto">
      <table class="sheet w-full">
        <thead>
          <tr>
            <th>what</th>
            <th class="r">amps</th>
            <th class="r">volts at the lamp</th>
            <th>how</th>
            <th class="r">expected</th>
            <th class="r">at running volts</th>
            <th><span class="sr-only">open</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in subjects" :key="s.key">
            <td>
              <span class="font-semibold">{{ s.name }}</span><span class="block text-sm text-dim">{{ s.detail }}</span>
            </td>
            <template v-if="s.reading && s.view">
              <td class="r min-w-32">
                <QuantityField
                  v-if="s.reading.kind !== 'series'"
                  :at="`/readings/${s.reading.id}/amps`"
                  :label="`Amps, ${s.name}`"
                  unit="A"
                  hide-label
                  :step="0.01"
                />
                <span v-else class="num">{{ s.view.amps === null ? 'unknown' : plain(s.view.amps, 2) }} A</span>
              </td>
              <td class="r min-w-32">
                <QuantityField
                  v-if="s.reading.volts_at !== 'battery'"
                  :at="`/readings/${s.reading.id}/volts`"
                  :label="`Volts, ${s.name}`"
                  unit="V"
                  hide-label
                /><FigureValue v-else :figure="s.view.lamp_v" name="Volts at the lamp" />
              </td>
              <td>
                {{ s.reading.kind }}<span v-if="s.reading.simulated" class="block text-brick">simulated</span
                ><span v-if="s.stale" class="block text-brick">the lamp was changed: read again</span>
              </td>
              <td class="r num" :class="s.view.window?.verdict === 'expected' ? '' : 'text-brick'">
                {{ s.view.window?.low ? `${plain(s.view.window.low, 2)} to ${plain(s.view.window.high ?? 0, 2)}` : '–' }}
              </td>
            </template>
            <template v-else>
              <td class="r min-w-32">
                <input
                  class="field num"
                  inputmode="decimal"
                  autocomplete="off"
                  placeholder="not read"
                  :aria-label="`Amps, ${s.name}`"
                  @change="typedInto(s, 'amps', $event)"
                />
              </td>
              <td class="r min-w-32">
                <input
                  class="field num"
                  inputmode="decimal"
                  autocomplete="off"
                  :aria-label="`Volts, ${s.name}`"
                  @change="typedInto(s, 'volts', $event)"
                />
              </td>
              <td colspan="2" class="text-dim">settled, as it is typed</td>
            </template>
            <td class="r"><FigureValue v-if="s.figure" :figure="s.figure" :name="s.name" fine sigma /></td>
            <td class="r">
              <button type="button" class="btn" @click="go(s.key)">{{ s.reading ? 'open' : 'read' }}</button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>

    <section class="mt-8 max-w-3xl" aria-labelledby="bench-head">
      <h3 id="bench-head" class="mb-2 text-lg">Bench leads</h3>
      <p class="mb-2 text-dim">
        They take their share of the volts when the volts are read at the battery. Enter what you know; empty is assumed.
      </p>
      <div class="grid gap-3 sm:grid-cols-4">
        <QuantityField at="/bench/series_ohm" label="Meter and leads, measured" unit="Ω" :step="0.01" />
        <QuantityField at="/bench/lead_length_m" label="or: one lead’s length" unit="m" help="3 ft or 90 cm works too" />
        <QuantityField at="/bench/lead_area_mm2" label="its conductor" unit="mm²" help="16 awg works too" />
        <QuantityField at="/bench/meter_ohm" label="meter itself" unit="Ω" :step="0.01" />
      </div>
    </section>
    <TableSheet :kind="importing" @close="importing = null" @kind="importing = $event" />
  </div>
</template>
