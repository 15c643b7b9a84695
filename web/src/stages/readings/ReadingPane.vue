<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed, ref } from 'vue'
import { freshId, type Reading, ofJob } from '../../api/client'
import { focusOn } from '../../ui/focusOn'
import WarmUpChart from '../../charts/WarmUpChart.vue'
import { useInstruments } from '../../state/useInstruments'
import { useJob } from '../../state/useJob'
import Caution from '../../ui/Caution.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { plain } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import Term from '../../ui/Term.vue'
import ClaimFields from '../../parts/ClaimFields.vue'
import ClaimNote from '../../parts/ClaimNote.vue'
import GuidedReading from './GuidedReading.vue'
import KeyPad from './KeyPad.vue'
import LogSheet from './LogSheet.vue'
import type { Run } from './useRun'
import type { Subject } from './useSubjects'

const props = defineProps<{ subject: Subject }>()
const emit = defineEmits<{ next: [] }>()
/** Whether the meter leads: kept from lamp to lamp. */
const guided = defineModel<boolean>('guided', { required: true })
const job = useJob()
const instruments = useInstruments()
const secondGuided = ref(false)
const log = ref(false)
const bigKeys = useLocalStorage('miser.big-keys', false)
const padFields = computed(() => [
  ...(reading.value?.kind === 'series' ? [] : [{ at: `${at.value}/amps`, label: 'Amps', unit: 'A' }]),
  { at: `${at.value}/volts`, label: 'Volts', unit: 'V' },
])
const reading = computed(() => props.subject.reading)
const view = computed(() => props.subject.view)
const at = computed(() => `/readings/${reading.value?.id}`)
const samples = computed(() => reading.value?.samples ?? [])
const STEP_S = 60

function blank(kind: Reading['kind']): Reading {
  const value: Reading = {
    id: freshId(),
    load_id: props.subject.loadId,
    kind,
    volts_at: 'lamp',
    taken_on: 'this_machine',
    at: new Date().toISOString(),
  }
  if (props.subject.choiceId) value.choice_id = props.subject.choiceId
  else if (props.subject.base) value.base = props.subject.base as Reading['base']
  return value
}
function begin(kind: Reading['kind']) {
  const value = blank(kind)
  if (kind === 'series') value.samples = [0, 1, 2].map((i) => ({ id: freshId(), t_s: i * STEP_S }))
  job.edit([{ op: 'add', at: '/readings', value }])
  focusOn(kind === 'series' ? `/readings/${value.id}/samples/${value.samples![0].id}/amps` : `/readings/${value.id}/amps`)
}
/** What the meter took, as a reading of this lamp; then the next. */
function accept(run: Run, volts: string) {
  const value = blank('series')
  value.samples = run.series.map((s) => ({ id: freshId(), ...s }))
  if (run.volts !== null) value.volts = Number(run.volts.toFixed(3))
  if (run.simulated) value.simulated = true
  // Typed volts go as text: the server reads them and says what is wrong.
  const typed = volts ? [{ op: 'set' as const, at: `/readings/${value.id}/volts`, value: volts }] : []
  job.edit([{ op: 'add', at: '/readings', value }, ...typed])
  emit('next')
}
function acceptSecond(run: Run, volts: string) {
  secondGuided.value = false
  const amps = run.settled ?? run.series.at(-1)?.amps
  if (amps === undefined || amps === null) return
  job.set(`${at.value}/second/amps`, Number(amps.toFixed(4)))
  if (run.volts !== null) job.set(`${at.value}/second/volts`, Number(run.volts.toFixed(3)))
  else if (volts) job.set(`${at.value}/second/volts`, volts)
}
function addSample() {
  const times = samples.value.map((s) => s.t_s ?? 0).sort((a, b) => a - b)
  const gap = times.length > 1 ? times[times.length - 1] - times[times.length - 2] : STEP_S
  job.edit([{ op: 'add', at: `${at.value}/samples`, value: { id: freshId(), t_s: (times.at(-1) ?? -gap) + gap } }])
}
const KINDS = [
  { key: 'settled', label: 'settled, warm' },
  { key: 'cold', label: 'cold, just switched on' },
  { key: 'series', label: 'a series while it warms' },
]
</script>

<template>
  <section :aria-label="subject.name" class="min-w-0" data-testid="reading-pane">
    <div class="flex flex-wrap items-baseline gap-x-4">
      <h3 class="text-2xl">{{ subject.name }}</h3>
      <span class="text-dim">{{ subject.detail }}</span>
    </div>
    <p v-if="subject.plan && !guided" class="mt-1 text-lg">{{ subject.plan.words }}</p>
    <Caution v-for="c in subject.plan?.cautions" :key="c" :of="c" class="my-3" />
    <ClaimNote v-if="subject.claim" :claim="subject.claim" />

    <GuidedReading
      v-if="guided && subject.plan && instruments.meter"
      :name="subject.name"
      :load-id="subject.loadId"
      :choice-id="subject.choiceId"
      :plan="subject.plan"
      @accept="accept"
      @leave="guided = false"
    />
    <div v-else-if="!reading || subject.stale" class="my-4">
      <p v-if="subject.stale" class="mb-2 font-semibold text-brick">
        The lamp was changed since this was read. The old reading is kept but counts no more.
      </p>
      <button v-if="instruments.meter" type="button" class="btn btn-main mb-3 min-h-14 px-6 text-lg" @click="guided = true">
        Take it with the meter
      </button>
      <p v-else class="mb-2">
        <RouterLink class="text-brass underline" to="/shop">Enter a bench meter’s address</RouterLink>, and Miser takes the reading.
      </p>
      <ol v-if="subject.plan" class="mb-3 list-decimal pl-6 text-dim">
        <li v-for="s in subject.plan.steps" :key="s">{{ s }}</li>
      </ol>
      <div class="flex flex-wrap gap-2">
        <button type="button" class="btn text-lg" :class="instruments.meter ? '' : 'btn-main'" @click="begin('settled')">
          Enter a settled reading
        </button>
        <button type="button" class="btn text-lg" @click="begin('series')">Take a series</button>
        <button type="button" class="btn text-lg" @click="begin('cold')">Cold only</button>
        <button type="button" class="btn text-lg" @click="log = true">A meter’s log</button>
      </div>
    </div>

    <div v-else>
      <div class="grid max-w-2xl grid-cols-2 gap-4">
        <QuantityField v-if="reading.kind !== 'series'" :at="`${at}/amps`" label="Amps" unit="A" big :step="0.01" />
        <QuantityField
          :at="`${at}/volts`"
          :label="reading.volts_at === 'battery' ? 'Volts at the battery' : 'Volts at the lamp'"
          unit="V"
          big
          :step="0.1"
        />
      </div>
      <button type="button" class="btn mt-2" :aria-pressed="bigKeys" @click="bigKeys = !bigKeys">Big keys</button>
      <KeyPad v-if="bigKeys" :fields="padFields" />
      <div class="mt-3 grid max-w-2xl grid-cols-3 gap-3">
        <PickField :at="`${at}/kind`" label="Taken" :options="KINDS" />
        <PickField
          :at="`${at}/volts_at`"
          label="Volts read at"
          :options="[
            { key: 'lamp', label: 'the lamp' },
            { key: 'battery', label: 'the battery' },
          ]"
          fallback="lamp"
        />
        <PickField
          :at="`${at}/taken_on`"
          label="On"
          :options="[
            { key: 'this_machine', label: 'this machine' },
            { key: 'same_model', label: 'same model elsewhere' },
          ]"
          fallback="this_machine"
        />
      </div>

      <div v-if="view?.window" class="mt-3" role="status" data-testid="window">
        <p v-if="view.window.verdict === 'expected'" class="text-moss">
          As its rating leads one to expect ({{ plain(view.window.low ?? 0, 2) }} to {{ plain(view.window.high ?? 0, 2) }} A).
        </p>
        <template v-else-if="view.window.verdict !== 'unknown'">
          <p v-if="view.window.low" class="font-semibold text-brick">
            Expected {{ plain(view.window.low, 2) }} to {{ plain(view.window.high ?? 0, 2) }} A.
          </p>
          <p v-if="view.window.remarks.length > 1" class="text-dim">Likeliest first, each with the check that tells it apart:</p>
          <ol class="list-decimal pl-6">
            <li v-for="r in view.window.remarks" :key="r">{{ r }}</li>
          </ol>
        </template>
      </div>
      <p v-if="reading.simulated" class="mt-3 font-semibold text-brick" data-testid="simulated-reading">
        {{ view?.origin }}. It counts for nothing: read the real one.
      </p>
      <p v-if="reading.note" class="mt-2 font-semibold text-brick">{{ reading.note }}</p>
      <p v-if="view?.problem" class="mt-2 text-brick">{{ view.problem }}</p>
      <p v-if="reading.volts_at === 'battery' && view" class="mt-2">
        At the lamp: <FigureValue :figure="view.lamp_v" name="Volts at the lamp" sigma />
      </p>

      <div v-if="reading.kind === 'series'" class="mt-4">
        <div class="flex max-h-72 flex-wrap gap-2 overflow-y-auto">
          <div v-for="(s, i) in samples" :key="s.id" class="w-28" data-sample>
            <QuantityField :at="`${at}/samples/${s.id}/t_s`" :label="`Time of reading ${i + 1}`" unit="s" hide-label :step="1" />
            <QuantityField :at="`${at}/samples/${s.id}/amps`" :label="`${s.t_s ?? '?'} s`" unit="A" hide-label :step="0.01" />
          </div>
          <button type="button" class="btn mt-7" @click="addSample">One more</button>
          <a class="btn mt-7" :href="ofJob(job.id, 'file', { kind: 'series', reading: reading.id })" download>Series as CSV</a>
        </div>
        <p
          v-if="view?.advice_text"
          class="my-2 text-lg font-semibold"
          :class="view.advice === 'settled' ? 'text-moss' : 'text-brass'"
          role="status"
          data-testid="advice"
        >
          {{ view.advice_text }}
        </p>
        <div v-if="view && view.cold !== null" class="my-2 flex flex-wrap gap-x-6">
          <span
            ><Term of="cold">cold</Term> <span class="num font-bold">{{ plain(view.cold, 2) }}</span> A, for the fuse</span
          >
          <span v-if="view.settled.value !== null"
            ><Term of="settled">settled</Term> <FigureValue :figure="view.settled" name="Settled draw" fine class="font-bold" />, for the
            budget</span
          >
          <span v-if="view.mean !== null" class="text-dim">plain average {{ plain(view.mean, 2) }} A</span>
        </div>
        <WarmUpChart v-if="view" :samples="samples" :settled="view.settled.value ?? null" :mean="view.mean" />
      </div>

      <details class="mt-4" :open="reading.second !== undefined">
        <summary class="min-h-11 cursor-pointer py-2 font-semibold">Two-voltage test: what law does it follow?</summary>
        <p class="mb-2 text-dim">
          Read it again at another voltage, a volt or more away: with the engine running, or from a second battery.
        </p>
        <GuidedReading
          v-if="secondGuided && subject.plan"
          :name="subject.name"
          :load-id="subject.loadId"
          :choice-id="subject.choiceId"
          :plan="subject.plan"
          second
          @accept="acceptSecond"
          @leave="secondGuided = false"
        />
        <!-- A stand-in adds nothing to what was read on a real lamp. -->
        <button
          v-else-if="instruments.meter && (reading.simulated || !instruments.meter.simulated)"
          type="button"
          class="btn mb-3"
          @click="secondGuided = true"
        >
          Take the second with the meter
        </button>
        <div class="grid max-w-2xl grid-cols-2 gap-4">
          <QuantityField :at="`${at}/second/amps`" label="Amps, second" unit="A" :step="0.01" />
          <QuantityField :at="`${at}/second/volts`" label="Volts, second" unit="V" />
        </div>
        <p v-if="view?.law_test" class="mt-2 text-lg" role="status" data-testid="law">
          {{ view.law_test.text }} Exponent <FigureValue :figure="view.law_test.exponent" name="Exponent" sigma />,
          <span class="text-dim">{{ Math.round(view.law_test.confidence * 100) }} % sure.</span>
        </p>
      </details>

      <p v-if="subject.figure" class="mt-4 text-xl" data-testid="at-running">
        At running volts <FigureValue :figure="subject.figure" :name="subject.name" fine sigma class="font-bold" />
      </p>
      <div class="mt-4 flex flex-wrap gap-2">
        <button type="button" class="btn btn-main min-h-14 px-6 text-lg" @click="$emit('next')">Next lamp</button>
        <button type="button" class="btn" @click="instruments.meter ? (guided = true) : begin('settled')">Read it again</button>
        <button type="button" class="btn" @click="job.edit([{ op: 'remove', at }])">Remove this reading</button>
      </div>
      <p v-if="subject.readings.length > 1" class="mt-2 text-dim">
        {{ subject.readings.length }} readings kept; the best and latest counts.
      </p>
      <details class="mt-4" :open="job.at(subject.claimAt) !== undefined">
        <summary class="min-h-11 cursor-pointer py-2 font-semibold">Advertised against real: what does its seller say?</summary>
        <ClaimFields :at="subject.claimAt" class="max-w-3xl" />
      </details>
    </div>
    <details v-if="!subject.choiceId && subject.load.group === 'lamp'" class="mt-4" :open="subject.load.lamp_v !== undefined">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">On the machine: what does the wire to it lose?</summary>
      <p class="mb-2 text-dim">
        Engine at cruise, this lamp lit: volts across its own plug, against the volts at the battery. An LED on the same wire is told by it
        too.
      </p>
      <QuantityField :at="`/loads/${subject.loadId}/lamp_v`" label="Volts at the lamp, engine running" unit="V" :step="0.1" class="w-64" />
      <p v-if="subject.wire" class="mt-2" role="status" data-testid="wire">{{ subject.wire }}</p>
    </details>
    <LogSheet :open="log" :name="subject.name" :load-id="subject.loadId" :choice-id="subject.choiceId" @close="log = false" />
  </section>
</template>
