<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import WarmUpChart from '../../charts/WarmUpChart.vue'
import { useInstruments } from '../../state/useInstruments'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import Caution from '../../ui/Caution.vue'
import { plain } from '../../ui/format'
import { useRun, type Run } from './useRun'
import { useKeys } from '../../ui/overlays'

const props = defineProps<{
  name: string
  loadId: string
  choiceId?: string
  plan: Schemas['Plan']
  /** The second of two voltages: the machine feeds the lamp. */
  second?: boolean
}>()
const emit = defineEmits<{ accept: [run: Run, volts: string]; leave: [] }>()
const job = useJob()
const instruments = useInstruments()
const reference = useReference()
const { run, amps, lux, failed, adrift, start, act, leave } = useRun()
const pace = ref(1)
/** Volts at the lamp as typed, where the meter does not read them. */
const typedVolts = ref('')
const simulated = computed(() => run.value?.simulated ?? instruments.meter?.simulated ?? false)

/** A meter in series reads no volts unless its other pair of leads is on the lamp. */
const volted = ref<boolean | null>(null)
const withVolts = computed({ get: () => volted.value ?? simulated.value, set: (v: boolean) => (volted.value = v) })

function begin() {
  if (!instruments.meter) return
  void start({
    job: job.id,
    load: props.loadId,
    choice: props.choiceId,
    meter: instruments.meter.id,
    light: instruments.light?.id,
    source: props.second ? 'running' : 'rest',
    every_s: 0.2,
    volts: withVolts.value,
    pace: pace.value,
  })
}

const figure = computed(() => amps.value.at(-1)?.value ?? null)
const samples = computed(() => amps.value.map((p) => ({ t_s: p.t_s, amps: p.value })))
const taken = computed(() => (run.value?.series.length ?? 0) > 1)
const acceptable = computed(() => taken.value && run.value !== null && ['warming', 'settled', 'lost'].includes(run.value.watch))
const tone = computed(() =>
  run.value?.watch === 'settled' ? 'text-moss' : run.value?.watch === 'lost' || run.value?.trouble ? 'text-brick' : 'text-brass',
)

function accept() {
  if (!acceptable.value || !run.value) return
  emit('accept', run.value, typedVolts.value.trim())
  leave()
}
function again() {
  void act('again')
}
function quit() {
  leave()
  emit('leave')
}
async function fault(what: 'none' | 'pulled' | 'garbage' | 'silent' | 'overload') {
  if (!instruments.meter) return
  await api.POST('/api/instruments/{id}/simulate', { params: { path: { id: instruments.meter.id } }, body: { fault: what } })
}

useKeys(
  (event) => {
    const target = event.target as HTMLElement
    if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || event.ctrlKey || event.metaKey || event.altKey) return
    const key = event.key.toLowerCase()
    const deed = key === 'a' && acceptable.value ? accept : key === 'r' && run.value ? again : key === 'escape' ? quit : null
    if (!deed) return
    event.preventDefault()
    event.stopImmediatePropagation()
    void deed()
  },
  null,
  { capture: true },
)
const benchVolts = computed(() => (reference.tables ? plain(reference.tables.bench_v, 1) : ''))
/** What ends the reading is on the screen from its first second. */
const deeds = useTemplateRef('deeds')
watch(deeds, (row) => row?.scrollIntoView({ block: 'nearest' }))
const FAULTS = [
  { key: 'none', label: 'none' },
  { key: 'pulled', label: 'cable pulled' },
  { key: 'garbage', label: 'garbage' },
  { key: 'silent', label: 'no answer' },
  { key: 'overload', label: 'overload' },
] as const
</script>

<template>
  <div class="my-3 border-t-4 border-brass bg-leaf p-4" data-testid="guided">
    <div v-if="!run">
      <h4 class="mb-1 text-lg font-bold">{{ second ? 'At another voltage: the engine running' : 'Before anything is touched' }}</h4>
      <p class="mb-2 font-semibold">{{ plan.words }}</p>
      <div class="grid gap-4 sm:grid-cols-[1fr_15rem]">
        <ol class="list-decimal space-y-1 pl-6">
          <li v-for="s in plan.steps" :key="s">{{ s }}</li>
          <li v-if="second">Machine running at cruise, so that the lamp sees charging volts.</li>
        </ol>
        <div class="grid content-start gap-2">
          <p v-if="failed" class="text-brick" role="alert">{{ failed }}</p>
          <button v-if="plan.range_a !== null" type="button" class="btn btn-main min-h-16 justify-center text-lg" @click="begin">
            Leads are on: begin
          </button>
          <button type="button" class="btn min-h-12 justify-center" @click="quit">By hand instead</button>
          <label class="flex min-h-11 items-center gap-2"
            ><input v-model="withVolts" type="checkbox" class="h-6 w-6" /> its volts leads are on it</label
          >
          <label v-if="simulated" class="text-sm text-dim"
            >simulated bench, its time runs
            <select v-model.number="pace" class="field">
              <option :value="1">as ours</option>
              <option :value="10">10 times</option>
              <option :value="40">40 times</option>
            </select></label
          >
        </div>
      </div>
      <Caution of="meter_jack" class="mt-3" />
      <Caution v-if="second" of="running_engine" class="mt-2" />
    </div>

    <div v-else>
      <p v-if="run.simulated" class="mb-2 font-bold text-brick" data-testid="simulated">Simulated: no real lamp is measured.</p>
      <div class="flex flex-wrap items-end gap-x-8 gap-y-2">
        <p class="leading-none" aria-live="off">
          <span class="num inline-block min-w-48 text-6xl font-bold" data-testid="live-amps">{{
            figure === null ? '–' : plain(figure, 3)
          }}</span>
          <span class="unit text-3xl">&thinsp;A</span>
        </p>
        <dl class="grid grid-cols-[auto_auto] gap-x-3 text-lg">
          <dt class="text-dim">cold, for the fuse</dt>
          <dd class="num text-right">{{ run.cold === null ? '–' : plain(run.cold, 2) }} A</dd>
          <dt class="text-dim">settles at</dt>
          <dd class="num min-w-44 text-right font-bold">
            {{ run.settled === null ? '–' : plain(run.settled, 3) }} A<span v-if="run.settled_sigma" class="unit text-base">
              ± {{ plain(run.settled_sigma, 3) }}</span
            >
          </dd>
        </dl>
        <dl class="grid grid-cols-[auto_auto] gap-x-3 text-lg">
          <template v-if="withVolts">
            <dt class="text-dim">volts at the lamp</dt>
            <dd class="num text-right">{{ run.volts === null ? '–' : plain(run.volts, 2) }} V</dd>
          </template>
          <template v-if="instruments.light">
            <dt class="text-dim">light</dt>
            <dd class="num min-w-24 text-right">{{ lux === null ? '–' : plain(lux, 0) }} lx</dd>
          </template>
        </dl>
      </div>
      <label v-if="!withVolts" class="mt-2 flex items-center gap-3 text-lg"
        >volts at the lamp, read by hand
        <input v-model="typedVolts" class="field num w-32" inputmode="decimal" autocomplete="off" :placeholder="benchVolts" />
      </label>
      <!-- Two lines' room, so that what is pressed stands still while the words change. -->
      <p class="my-2 min-h-14 text-xl font-bold" :class="tone" role="status" data-testid="run-words">
        {{ run.trouble ? `The meter ${run.trouble.text}. ${run.trouble.remedy}` : run.words }}
      </p>
      <p v-if="adrift" class="mb-2 text-brick" role="status">The stream broke off; it is taken up again, nothing is lost.</p>
      <div ref="deeds" class="flex scroll-mb-16 flex-wrap gap-2">
        <button type="button" class="btn btn-main min-h-14 px-6 text-lg" :disabled="!acceptable" @click="accept">
          {{ run.watch === 'settled' ? 'Accept' : 'Accept what there is' }} <span class="kbd text-on-brass!">A</span>
        </button>
        <button type="button" class="btn min-h-14 px-6 text-lg" @click="again">Again <span class="kbd">R</span></button>
        <button v-if="run.state === 'interrupted'" type="button" class="btn min-h-14 px-6 text-lg" @click="act('go_on')">Go on</button>
        <button type="button" class="btn min-h-14" @click="quit">Leave <span class="kbd">Esc</span></button>
        <label v-if="run.simulated" class="ml-auto flex items-center gap-2 text-sm text-dim"
          >fault to practise on
          <select
            class="field w-auto"
            aria-label="Fault to practise on"
            @change="fault(($event.target as HTMLSelectElement).value as 'none')"
          >
            <option v-for="f in FAULTS" :key="f.key" :value="f.key">{{ f.label }}</option>
          </select></label
        >
      </div>
      <WarmUpChart class="mt-3" :samples="samples" :settled="run.settled" :mean="null" live />
    </div>
  </div>
</template>
