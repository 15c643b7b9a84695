<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import Caution from '../../ui/Caution.vue'
import FigureValue from '../../ui/FigureValue.vue'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import Term from '../../ui/Term.vue'
import YesNo from '../../ui/YesNo.vue'

const props = defineProps<{ circuit: Schemas['job_circuit']; known?: Schemas['CircuitView'] }>()
const job = useJob()
const reference = useReference()
const at = computed(() => `/circuits/${props.circuit.id}`)
const points = computed(() => props.circuit.alternator?.points ?? [])
const lithium = computed(() => props.circuit.battery?.kind === 'lithium')
const dc = computed(() => props.circuit.kind === 'dc')

function addPoint() {
  job.edit([{ op: 'add', at: `${at.value}/alternator/points`, value: { id: freshId(), stator: 'hot' } }])
}
</script>

<template>
  <section :aria-label="`Charging: ${circuit.name}`">
    <div class="mb-3 flex flex-wrap items-baseline gap-x-4">
      <h2 class="text-xl">
        {{ dc ? 'Charging and battery' : 'Lighting coil'
        }}<span v-if="job.document!.circuits.length > 1" class="text-dim">: {{ circuit.name }}</span>
      </h2>
      <span v-if="known?.basis" class="text-dim" :data-at="`${at}/alternator`">
        from {{ known.basis }}: most <FigureValue :figure="known.i_inf" name="Most it can earn" />, <Term of="cut-in">cut-in</Term>{{ ' '
        }}<FigureValue :figure="known.cut_in" name="Cut-in speed" />, budget at
        <FigureValue :figure="known.volts" name="Budget volts" />
      </span>
      <span v-else class="text-brick" role="status">{{ known?.reason }}</span>
    </div>
    <div class="grid gap-x-8 gap-y-5 lg:grid-cols-2">
      <div>
        <h3 class="mb-2 font-semibold">From the rating plate</h3>
        <div class="grid grid-cols-2 gap-3">
          <QuantityField :at="`${at}/alternator/rated_w`" label="Rated output" unit="W" :step="10" />
          <QuantityField :at="`${at}/alternator/rated_rpm`" label="at" unit="rpm" :step="100" />
          <QuantityField :at="`${at}/alternator/cut_in_rpm`" label="Cut-in speed" unit="rpm" :step="50" help="empty: assumed from idle" />
          <QuantityField v-if="!dc" :at="`${at}/alternator/pole_pairs`" label="Pole pairs" unit="" :step="1" help="for flicker" />
          <QuantityField v-else :at="`${at}/regulator/volts`" label="Running volts, measured" unit="V" help="empty: assumed" />
        </div>
        <div v-if="dc" class="mt-3 grid grid-cols-2 gap-3">
          <PickField
            :at="`${at}/alternator/winding`"
            label="Stator winding"
            :options="reference.tables?.windings ?? []"
            :fallback="reference.tables?.windings[0]?.key"
          />
          <PickField
            :at="`${at}/regulator/kind`"
            label="Regulator"
            :options="reference.tables?.regulators ?? []"
            :fallback="reference.tables?.regulators[0]?.key"
          />
        </div>
        <template v-if="!dc">
          <YesNo :at="`${at}/regulator/fitted`" label="AC regulator fitted, as it came in" :fallback="true" />
          <QuantityField
            v-if="circuit.regulator?.fitted !== false"
            :at="`${at}/regulator/volts`"
            label="Volts it holds, measured"
            unit="V"
          />
          <PickField
            v-if="circuit.regulator?.fitted !== false"
            :at="`${at}/regulator/wave`"
            label="What it does to the wave"
            :options="reference.tables?.regulator_waves ?? []"
            help="empty: the worse of both"
          />
          <YesNo :at="`${at}/alternator/half_wave`" label="Half-wave" />
        </template>
      </div>
      <div>
        <h3 class="mb-2 font-semibold">Measured points, better than the plate</h3>
        <Caution of="running_engine" class="mb-2" />
        <table v-if="points.length" class="sheet w-full">
          <thead>
            <tr>
              <th>rpm</th>
              <th>output</th>
              <th>volts</th>
              <th>stator</th>
              <th><span class="sr-only">remove</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="p in points" :key="p.id">
              <td class="pl-0!">
                <QuantityField :at="`${at}/alternator/points/${p.id}/rpm`" label="Engine speed" unit="" hide-label :step="100" />
              </td>
              <td><QuantityField :at="`${at}/alternator/points/${p.id}/amps`" label="Regulator output" unit="A" hide-label /></td>
              <td><QuantityField :at="`${at}/alternator/points/${p.id}/volts`" label="Volts there" unit="V" hide-label /></td>
              <td>
                <PickField
                  :at="`${at}/alternator/points/${p.id}/stator`"
                  label="Stator"
                  hide-label
                  :options="[
                    { key: 'hot', label: 'hot' },
                    { key: 'cold', label: 'cold' },
                  ]"
                  fallback="hot"
                  class="w-24"
                />
              </td>
              <td class="pr-0!">
                <button
                  type="button"
                  class="btn btn-bare"
                  aria-label="Remove this point"
                  @click="job.edit([{ op: 'remove', at: `${at}/alternator/points/${p.id}` }])"
                >
                  ✕
                </button>
              </td>
            </tr>
          </tbody>
        </table>
        <p v-else class="text-dim">Clamp meter on the regulator’s output, lights on so that it does not shunt, at two speeds or more.</p>
        <button type="button" class="btn mt-2" @click="addPoint">Add a point</button>
      </div>
      <div v-if="dc">
        <h3 class="mb-2 font-semibold">Battery</h3>
        <Caution :of="lithium ? 'lithium' : 'battery_acid'" class="mb-2" />
        <div class="grid grid-cols-2 gap-3 sm:grid-cols-3">
          <PickField
            :at="`${at}/battery/kind`"
            label="Kind"
            :options="reference.tables?.batteries ?? []"
            :fallback="reference.tables?.batteries[0]?.key"
          />
          <QuantityField :at="`${at}/battery/capacity_ah`" label="Capacity" unit="Ah" :step="0.5" />
          <QuantityField :at="`${at}/battery/rest_v`" label="Volts at rest" unit="V" help="tells the charge" />
          <QuantityField :at="`${at}/battery/resistance_ohm`" label="Resistance" unit="Ω" :step="0.001" help="empty: assumed" />
        </div>
      </div>
    </div>
    <p v-for="r in known?.remarks" :key="r" class="mt-2 text-dim">{{ r }}</p>
  </section>
</template>
