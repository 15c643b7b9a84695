<script setup lang="ts">
import { computed, ref } from 'vue'
import { freshId, type Load, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import FigureValue from '../../ui/FigureValue.vue'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'

/** Loads that are no lamp's own: the engine's, resistors, accessories; a row a load. */
const props = defineProps<{ loads: Load[]; group: 'engine' | 'resistor' | 'accessory'; views: Record<string, Schemas['LoadView']> }>()
const job = useJob()
const reference = useReference()
const roles = computed(() =>
  (reference.tables?.roles ?? []).filter((r) => r.group === props.group || (props.group === 'accessory' && r.key === 'aux_lamp')),
)

/** The figure that stands in the row; a first one is made when something is typed. */
function figure(load: Load) {
  return load.figures?.[0]
}
/** Rows whose stated draw is typed in watts, though none is typed yet. */
const asked = ref<Record<string, boolean>>({})
const inWatts = (load: Load) => asked.value[load.id] ?? figure(load)?.watts !== undefined
function ask(load: Load, watts: boolean) {
  asked.value[load.id] = watts
  job.edit([{ op: 'unset', at: `/loads/${load.id}/figures/${figure(load)!.id}/${watts ? 'amps' : 'watts'}` }])
}
function addFigure(load: Load) {
  job.edit([{ op: 'add', at: `/loads/${load.id}/figures`, value: { id: freshId(), origin: 'maker' } }])
}
function figures(load: Load) {
  const view = props.views[load.id]
  return view?.before ?? view?.after ?? null
}
function shift(load: Load, by: number) {
  const i = props.loads.indexOf(load)
  const before = by < 0 ? props.loads[i - 1]?.id : props.loads[i + 2]?.id
  job.edit([{ op: 'move', at: `/loads/${load.id}`, before: before ?? null }])
}
</script>

<template>
  <ul>
    <li v-for="(load, i) in loads" :key="load.id" class="border-b border-line py-2" :data-load="load.id">
      <div class="flex flex-wrap items-end gap-3">
        <TextField :at="`/loads/${load.id}/name`" label="Name" :hide-label="i > 0" class="w-44" />
        <PickField :at="`/loads/${load.id}/role`" label="What it does" :hide-label="i > 0" :options="roles" class="w-44" />
        <QuantityField
          v-if="group === 'resistor'"
          :at="`/loads/${load.id}/count`"
          label="How many"
          unit=""
          :hide-label="i > 0"
          :step="1"
          placeholder="1"
          class="w-20"
        />
        <template v-if="figure(load)">
          <QuantityField
            :at="`/loads/${load.id}/figures/${figure(load)!.id}/${inWatts(load) ? 'watts' : 'amps'}`"
            :label="inWatts(load) ? 'Watts' : 'Amps'"
            :unit="inWatts(load) ? 'W' : 'A'"
            :hide-label="i > 0"
            class="w-28"
          />
          <PickField
            :at="`/loads/${load.id}/figures/${figure(load)!.id}/origin`"
            label="Where from"
            :hide-label="i > 0"
            :options="reference.statedOrigins"
            class="w-80 max-w-full"
          />
        </template>
        <div class="ml-auto flex items-center gap-1">
          <span class="min-w-20 text-right text-lg"
            ><FigureValue v-if="figures(load)" :figure="figures(load)!" :name="load.name" fine
          /></span>
          <template v-if="group === 'accessory'">
            <button type="button" class="btn btn-bare" :aria-label="`${load.name} up`" :disabled="i === 0" @click="shift(load, -1)">
              ↑
            </button>
            <button
              type="button"
              class="btn btn-bare"
              :aria-label="`${load.name} down`"
              :disabled="i === loads.length - 1"
              @click="shift(load, 1)"
            >
              ↓
            </button>
          </template>
          <button
            type="button"
            class="btn btn-bare"
            :aria-label="`Remove ${load.name}`"
            @click="job.edit([{ op: 'remove', at: `/loads/${load.id}` }])"
          >
            ✕
          </button>
        </div>
      </div>
      <details class="mt-1">
        <summary class="min-h-8 w-fit cursor-pointer py-1 text-sm text-dim">
          {{ views[load.id]?.law_label }}, {{ views[load.id]?.origin ?? 'draw unknown' }}{{ load.position ? `; ${load.position}` : ''
          }}{{ load.wanted ? '; wanted' : '' }}
        </summary>
        <div class="flex flex-wrap items-end gap-3 pb-2">
          <TextField :at="`/loads/${load.id}/position`" label="Position" class="w-48" />
          <PickField
            :at="`/loads/${load.id}/law`"
            label="Draw law"
            :options="reference.lawChoices"
            none="usual for its kind"
            class="w-52"
          />
          <PickField
            v-if="job.document!.circuits.length > 1"
            :at="`/loads/${load.id}/circuit`"
            label="Circuit"
            :options="job.document!.circuits.map((c) => ({ key: c.id, label: c.name ?? c.id }))"
            class="w-44"
          />
          <QuantityField
            v-if="group !== 'resistor'"
            :at="`/loads/${load.id}/key_off_a`"
            label="Key-off draw"
            unit="A"
            :step="0.001"
            class="w-32"
          />
          <QuantityField
            v-if="figure(load)"
            :at="`/loads/${load.id}/figures/${figure(load)!.id}/volts`"
            label="Figure is at"
            unit="V"
            class="w-28"
          />
          <template v-if="figure(load)">
            <button type="button" class="btn" @click="ask(load, !inWatts(load))">
              {{ inWatts(load) ? 'enter amps instead' : 'enter watts instead' }}
            </button>
          </template>
          <button v-else type="button" class="btn" @click="addFigure(load)">Enter a stated draw</button>
          <YesNo v-if="group === 'accessory'" :at="`/loads/${load.id}/wanted`" label="wanted, not fitted yet" />
        </div>
      </details>
    </li>
  </ul>
</template>
