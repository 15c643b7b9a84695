<script setup lang="ts">
import { ofJob } from '../../api/client'
import { computed, ref } from 'vue'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import Caution from '../../ui/Caution.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import { plain } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'
import TextField from '../../ui/TextField.vue'
import ToneNote from '../../ui/ToneNote.vue'
import { stageFor } from '../registry'
import CuresPart from './CuresPart.vue'
import DiagnosisPart from './DiagnosisPart.vue'
import FlashCounter from './FlashCounter.vue'
import LoopDrawing from './LoopDrawing.vue'
import { useSignals, type Command } from './useSignals'

const job = useJob()
const reference = useReference()
const defaults = computed(() => reference.tables?.signal_defaults)
const { view, failed, busy, volts, lights, faults } = useSignals()
const command = ref<Command>('left')
const shown = ref<'both' | 'before' | 'after'>('both')
const sides = computed(() => view.value?.sides)
const faultWords = computed(() => (view.value?.faults ?? []).filter((f) => faults.value.includes(f.id)))
const signals = computed(() => (job.document?.loads ?? []).some((l) => l.role.startsWith('signal_')))
const PARTS = [
  { id: 'drawing', label: 'Drawing' },
  { id: 'wiring', label: 'Wiring' },
  { id: 'cures', label: 'Cures' },
  { id: 'count', label: 'Count the flashes' },
  { id: 'diagnosis', label: 'What is wrong?' },
  { id: 'faults', label: 'Try a fault' },
]
function reach(part: string) {
  document.getElementById(`part-${part}`)?.scrollIntoView({ block: 'start' })
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="text-xl">Signals</h2>
      <ChoiceRow v-if="sides" label="Switch" :options="reference.tables?.signal_commands ?? []" :value="command" @pick="command = $event" />
      <select v-if="sides" v-model="shown" aria-label="Drawn" class="field w-auto">
        <option value="both">before and after</option>
        <option value="after">after alone</option>
        <option value="before">before alone</option>
      </select>
      <button v-if="sides" type="button" class="btn" :aria-pressed="lights" @click="lights = !lights">
        lights {{ lights ? 'on' : 'off' }}
      </button>
      <label v-if="sides" class="flex items-center gap-2 text-dim"
        >battery
        <select
          :value="volts ?? reference.tables?.rest_v"
          class="field w-auto"
          @change="volts = Number(($event.target as HTMLSelectElement).value)"
        >
          <option v-for="v in reference.tables?.battery_volts ?? []" :key="v" :value="v">{{ plain(v, 1) }} V</option>
        </select></label
      >
      <span v-if="busy" class="text-sm text-dim" role="status">solving …</span>
      <template v-if="sides">
        <a class="btn ml-auto" :href="ofJob(job.id, 'circuit', { kind: 'svg', side: 'after' })" download>SVG</a>
        <a class="btn" :href="ofJob(job.id, 'circuit', { kind: 'netlist', side: 'after', command })" download>Netlist</a>
      </template>
    </div>
    <ToneNote v-if="failed" tone="bad" class="mb-3" role="alert">{{ failed }}</ToneNote>
    <EmptyBox v-if="!signals">
      This machine has no turn signals entered.
      <RouterLink class="text-brass underline" :to="{ name: stageFor('new machine'), params: { id: job.id } }">Enter them</RouterLink>
      if it has.
    </EmptyBox>
    <template v-else>
      <Caution v-if="job.document?.system === 'data_bus'" of="data_bus" class="mb-3" />
      <nav
        v-if="view?.ready"
        class="no-print sticky top-[var(--rail-h,0px)] z-10 mb-3 flex flex-wrap gap-1 bg-paper py-1"
        aria-label="Parts of this page"
        data-testid="reach"
      >
        <button v-for="p in PARTS" :key="p.id" type="button" class="btn" @click="reach(p.id)">{{ p.label }}</button>
      </nav>
      <div v-if="sides" id="part-drawing" class="grid scroll-mt-[calc(var(--rail-h,0px)+4rem)] gap-4" data-testid="loops">
        <ToneNote v-if="sides.after.problems.length" tone="bad" data-testid="problems">
          <ul>
            <li v-for="p in sides.after.problems.slice(0, 3)" :key="p.text">{{ p.text }}</li>
            <li v-if="sides.after.problems.length > 3" class="text-dim">and {{ sides.after.problems.length - 3 }} more</li>
          </ul>
        </ToneNote>
        <ToneNote v-else tone="good" class="font-semibold text-moss" data-testid="cured"
          >After the change. {{ sides.after.words }}</ToneNote
        >
        <div class="grid gap-4" :class="shown === 'both' ? 'min-[1000px]:grid-cols-2' : ''">
          <LoopDrawing v-if="shown !== 'after'" :side="sides.before" :command="command" title="before" />
          <LoopDrawing v-if="shown !== 'before'" :side="sides.after" :command="command" title="after" />
        </div>
      </div>
      <EmptyBox v-else-if="view && !view.ready" class="mb-3">
        Still unknown: {{ view.missing.map((m) => m.text).join('; ') }}. Then the circuit is drawn and solved.
      </EmptyBox>

      <section
        id="part-wiring"
        class="mt-6 grid scroll-mt-[calc(var(--rail-h,0px)+4rem)] gap-3 sm:grid-cols-3 lg:grid-cols-4"
        aria-label="Wiring"
      >
        <PickField at="/signals/flasher" label="Flasher" :options="reference.tables?.flashers ?? []" none="not known" />
        <PickField at="/signals/telltale" label="Tell-tale" :options="reference.tables?.telltales ?? []" none="not known" />
        <PickField at="/signals/plug" label="Its plug, pin by pin" :options="reference.tables?.plugs ?? []" none="as usual" />
        <QuantityField at="/signals/fuse_a" label="Fuse" unit="A" :step="1" />
        <YesNo at="/signals/hazard" label="It has a hazard switch" />
        <QuantityField at="/signals/running_w" label="Running filament, front bulbs" unit="W" :step="1" help="empty: none" />
        <QuantityField
          at="/checks/before/flash_per_min"
          label="Rate as it came in"
          unit="/min"
          :step="1"
          :help="`empty: ${defaults?.flash_per_min ?? ''} is assumed`"
        />
        <QuantityField
          at="/signals/wire_ohm"
          label="Wire and joints to a lamp"
          unit="Ω"
          :step="0.05"
          :help="`empty: ${defaults?.wire_ohm ?? ''}`"
        />
        <QuantityField
          at="/signals/feed_ohm"
          label="Wire and joints to the flasher"
          unit="Ω"
          :step="0.05"
          :help="`empty: ${defaults?.feed_ohm ?? ''}`"
        />
        <TextField v-for="c in reference.tables?.signal_wires ?? []" :key="c.key" :at="`/signals/colours/${c.key}`" :label="c.label" />
      </section>
      <p class="mt-1 text-sm text-dim">Colours mean nothing across makers: prove each wire with the meter.</p>

      <template v-if="view?.ready">
        <CuresPart id="part-cures" :view="view" class="mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" />
        <FlashCounter id="part-count" side="before" class="mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" />
        <DiagnosisPart id="part-diagnosis" :view="view" class="mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" />
        <section id="part-faults" class="mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" aria-labelledby="faults-head">
          <h3 id="faults-head" class="mb-2 text-lg">Put a fault in and watch</h3>
          <div class="flex flex-wrap gap-1" data-testid="faults">
            <button
              v-for="f in view.faults"
              :key="f.id"
              type="button"
              class="btn text-sm"
              :aria-pressed="faults.includes(f.id)"
              @click="faults = faults.includes(f.id) ? faults.filter((x) => x !== f.id) : [...faults, f.id]"
            >
              {{ f.label }}
            </button>
          </div>
          <p v-for="f in faultWords" :key="f.id" class="mt-2">
            <b>{{ f.label }}.</b> To prove it: {{ f.check }} To mend it: {{ f.cure }}
          </p>
        </section>
      </template>
    </template>
  </div>
</template>
