<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Load } from '../../api/client'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import Caution from '../../ui/Caution.vue'
import DayField from '../../ui/DayField.vue'
import FailNote from '../../ui/FailNote.vue'
import { focusOn } from '../../ui/focusOn'
import FlagNote from '../../ui/FlagNote.vue'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import BookPart from './BookPart.vue'
import CircuitPart from './CircuitPart.vue'
import LampRows from './LampRows.vue'
import LoadRows from './LoadRows.vue'

const job = useJob()
const reference = useReference()
const document = computed(() => job.document!)
const loads = computed(() => document.value.loads)
const engineLoads = computed(() => loads.value.filter((l) => l.group === 'engine'))
const resistors = computed(() => loads.value.filter((l) => (l.group === 'lamp' || l.group === 'resistor') && !l.position_id))
const wanted = computed(() => loads.value.filter((l) => l.group === 'accessory' && !l.fed_by))
const { view, failed } = useStageView('intake')
const views = computed(() => Object.fromEntries((view.value?.loads ?? []).map((l) => [l.id, l])))
const system = computed(() => reference.tables?.systems.find((s) => s.key === document.value.system))

/** A row as the server offers it, to be filled in. */
function add(group: 'engine' | 'accessory') {
  const offer = view.value?.offers[group]
  if (!offer) return
  const { origin, ...row } = offer
  const figures = origin ? { figures: [{ id: freshId(), origin }] } : {}
  const id = freshId()
  job.edit([{ op: 'add', at: '/loads', value: { id, ...row, ...figures } as Load }])
  focusOn(`/loads/${id}/name`)
}
async function addLamp(event: Event) {
  const field = event.target as HTMLSelectElement
  const key = field.value
  field.value = ''
  if (!key) return
  await job.act('lamp', key)
  // A hand that went on typing elsewhere meanwhile is left there.
  const added = document.value.positions.at(-1)
  if (added && window.document.activeElement === field) focusOn(`/positions/${added.id}/name`)
}
</script>

<template>
  <div class="grid max-w-[1180px] gap-8">
    <FailNote v-if="failed" :text="failed" />
    <BookPart v-if="view" :book="view.book" :visits="view.visits" />

    <section aria-labelledby="intake-machine">
      <h2 id="intake-machine" class="mb-3 text-xl">Machine</h2>
      <div class="grid gap-4 sm:grid-cols-2 lg:grid-cols-4">
        <TextField at="/name" label="Name" />
        <TextField at="/bay" label="Bay" />
        <TextField at="/fleet" label="Fleet or owner" />
        <TextField at="/waiting" label="Waiting for" />
        <DayField at="/came_in" label="Came in on" />
        <TextField at="/machine/model" label="Model" />
        <TextField at="/machine/frame" label="Frame number" />
        <QuantityField at="/machine/distance_km" label="Distance" unit="km" :step="100" />
        <QuantityField at="/machine/hours" label="Engine hours" unit="h" :step="1" />
        <PickField at="/machine/kind" label="Kind" :options="reference.tables?.machine_kinds ?? []" />
        <div>
          <label class="mb-1 block text-dim" for="engine">Engine</label>
          <select
            id="engine"
            class="field"
            data-at="/machine/engine"
            :value="document.machine.engine ?? ''"
            @change="job.act('engine', ($event.target as HTMLSelectElement).value)"
          >
            <option value="" disabled>choose: offers its own loads</option>
            <option v-for="e in reference.tables?.engines" :key="e.key" :value="e.key">{{ e.label }}</option>
          </select>
        </div>
        <QuantityField at="/machine/year" label="Year" unit="" :step="1" />
        <QuantityField at="/machine/idle_rpm" label="Idle" unit="rpm" :step="50" />
        <QuantityField at="/machine/slow_rpm" label="Slow trail" unit="rpm" :step="50" />
        <QuantityField at="/machine/cruise_rpm" label="Cruise" unit="rpm" :step="100" />
        <QuantityField at="/machine/redline_rpm" label="Redline" unit="rpm" :step="100" />
      </div>
    </section>

    <section aria-labelledby="intake-system">
      <h2 id="intake-system" class="mb-3 text-xl">Electrical system</h2>
      <ChoiceRow
        label="Electrical system"
        :options="reference.tables?.systems ?? []"
        :value="document.system"
        @pick="job.act('system', $event)"
      />
      <p class="my-2 text-dim">{{ system?.means }}</p>
      <Caution v-if="document.system === 'data_bus'" of="data_bus" />
      <Caution v-if="document.system === 'ac_lit' || document.system === 'mixed'" of="ac_runaway" />
      <FlagNote v-for="f in view?.flags" :key="f.key + f.side" :flag="f" class="mt-2" />
    </section>

    <CircuitPart v-for="c in document.circuits" :key="c.id" :circuit="c" :known="view?.circuits.find((k) => k.id === c.id)" />

    <section v-if="document.circuits.some((c) => c.kind === 'dc') || engineLoads.length > 0" aria-labelledby="intake-engine">
      <div class="mb-2 flex flex-wrap items-baseline gap-3">
        <h2 id="intake-engine" class="text-xl">The engine’s own loads</h2>
        <span class="text-dim">ignition, pump, injection, controllers, fan: they eat first</span>
      </div>
      <LoadRows :loads="engineLoads" group="engine" :views="views" />
      <p v-if="engineLoads.length === 0" class="py-2 text-dim">
        None yet. Choose the engine above, and its usual loads are offered, marked as not measured.
      </p>
      <button type="button" class="btn mt-2" @click="add('engine')">Add an engine load</button>
    </section>

    <section aria-labelledby="intake-lamps" data-at="/positions">
      <h2 id="intake-lamps" class="mb-2 text-xl">Lamps, as they came in</h2>
      <LampRows :views="views" />
      <LoadRows v-if="resistors.length" :loads="resistors" group="resistor" :views="views" />
      <template v-if="document.positions.length === 0">
        <p class="py-2 text-dim">None yet. Take what is usual of such a machine and look it over, or add lamp by lamp.</p>
        <div class="mb-2 flex flex-wrap gap-1" role="group" aria-label="What is usual of">
          <button v-for="m in reference.tables?.usual_machines" :key="m.key" type="button" class="btn" @click="job.act('usual', m.key)">
            {{ m.label }}
          </button>
        </div>
      </template>
      <select class="field mt-2 max-w-80" aria-label="Add a lamp" @change="addLamp">
        <option value="">add a lamp …</option>
        <option v-for="l in reference.tables?.usual_lamps" :key="l.key" :value="l.key">{{ l.label }}</option>
      </select>
    </section>

    <section aria-labelledby="intake-wanted">
      <div class="mb-2 flex flex-wrap items-baseline gap-3">
        <h2 id="intake-wanted" class="text-xl">Accessories</h2>
        <span class="text-dim">wanted ones in the owner’s order: the first is fitted first</span>
      </div>
      <LoadRows :loads="wanted" group="accessory" :views="views" />
      <p v-if="wanted.length === 0" class="py-2 text-dim">Nothing wanted yet: grips, radio charger, tracker, driving lights.</p>
      <button type="button" class="btn mt-2" @click="add('accessory')">Add an accessory</button>
    </section>

    <section aria-labelledby="intake-note">
      <h2 id="intake-note" class="sr-only">Notes</h2>
      <TextField at="/note" label="Notes" :lines="3" />
    </section>
  </div>
</template>
