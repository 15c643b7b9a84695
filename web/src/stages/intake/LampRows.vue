<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Load, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import FigureValue from '../../ui/FigureValue.vue'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'

/** Lamps as they came in: a row a lamp, what it does beneath. */
const props = defineProps<{ views: Record<string, Schemas['LoadView']> }>()
const job = useJob()
const reference = useReference()
const tables = computed(() => reference.tables)
const roles = computed(() => (tables.value?.roles ?? []).filter((r) => r.group === 'lamp'))
const lamps = computed(() =>
  job.document!.positions.map((p) => ({ ...p, loads: job.document!.loads.filter((l) => l.position_id === p.id && !l.brought_by) })),
)
type Lamp = (typeof lamps.value)[number]

/** Nothing rates its filament: what it draws must be said. */
const unrated = (lamp: Lamp) => !lamp.holder?.base || lamp.holder.base === 'other'
const figure = (load: Load) => load.figures?.[0]
const inWatts = (load: Load) => figure(load)?.watts !== undefined
function state(load: Load, watts: boolean) {
  const at = `/loads/${load.id}/figures`
  if (figure(load)) job.edit([{ op: 'unset', at: `${at}/${figure(load)!.id}/${watts ? 'amps' : 'watts'}` }])
  else job.edit([{ op: 'add', at, value: { id: freshId(), origin: 'maker' } }])
}
function does(lamp: Lamp, event: Event) {
  const field = event.target as HTMLSelectElement
  const role = roles.value.find((r) => r.key === field.value)
  field.value = ''
  if (!role) return
  const value = {
    id: freshId(),
    name: `${lamp.name}: ${role.label.toLowerCase()}`.slice(0, 80),
    group: 'lamp',
    role: role.key,
    circuit: lamp.loads[0]?.circuit,
    position_id: lamp.id,
  }
  job.edit([{ op: 'add', at: '/loads', value }])
}
const where = (lamp: Lamp) => lamp.place ?? [lamp.end, lamp.side].filter(Boolean).join(' ')
const drawn = (load: Load) => props.views[load.id]?.before ?? props.views[load.id]?.after ?? null
</script>

<template>
  <ul>
    <li v-for="(lamp, i) in lamps" :key="lamp.id" class="border-b border-line py-2" :data-lamp="lamp.id">
      <div class="flex flex-wrap items-end gap-3">
        <TextField :at="`/positions/${lamp.id}/name`" label="Lamp" :hide-label="i > 0" class="w-52" />
        <PickField
          :at="`/positions/${lamp.id}/holder/base`"
          label="Bulb base"
          :hide-label="i > 0"
          :options="reference.baseChoices"
          none="no base"
          class="w-48"
        />
        <QuantityField
          :at="`/positions/${lamp.id}/count`"
          label="How many"
          unit=""
          :hide-label="i > 0"
          :step="1"
          placeholder="1"
          class="w-20"
        />
        <p class="flex min-h-11 flex-1 flex-wrap items-center justify-end gap-x-4 text-right">
          <span v-for="load in lamp.loads" :key="load.id" class="whitespace-nowrap">
            <span v-if="lamp.loads.length > 1" class="mr-1 text-sm text-dim">{{
              reference.roles[load.role]?.label.split(', ').at(-1)
            }}</span>
            <FigureValue v-if="drawn(load)" :figure="drawn(load)!" :name="load.name" fine class="text-lg" />
          </span>
        </p>
        <button
          type="button"
          class="btn btn-bare"
          :aria-label="`Remove ${lamp.name}`"
          @click="job.edit([{ op: 'remove', at: `/positions/${lamp.id}` }])"
        >
          ✕
        </button>
      </div>
      <div
        v-for="load in unrated(lamp) ? lamp.loads : []"
        :key="load.id"
        class="mt-2 flex flex-wrap items-end gap-3 pl-4"
        :data-load="load.id"
      >
        <span class="min-h-11 w-48 content-center">{{ reference.roles[load.role]?.label }}</span>
        <template v-if="figure(load)">
          <QuantityField
            :at="`/loads/${load.id}/figures/${figure(load)!.id}/${inWatts(load) ? 'watts' : 'amps'}`"
            :label="inWatts(load) ? 'Watts' : 'Amps'"
            :unit="inWatts(load) ? 'W' : 'A'"
            class="w-28"
          />
          <PickField
            :at="`/loads/${load.id}/figures/${figure(load)!.id}/origin`"
            label="Where from"
            :options="reference.statedOrigins"
            class="w-72 max-w-full"
          />
        </template>
        <template v-else>
          <QuantityField :at="`/loads/${load.id}/rated_w`" label="Rated watts" unit="W" :step="1" class="w-28" />
          <button type="button" class="btn" @click="state(load, false)">Enter a stated draw</button>
        </template>
      </div>
      <details class="mt-1">
        <summary class="min-h-8 w-fit cursor-pointer py-1 text-sm text-dim">
          {{
            [where(lamp), [...new Set(lamp.loads.map((l) => views[l.id]?.origin ?? 'draw unknown'))].join('; ')].filter(Boolean).join('; ')
          }}
        </summary>
        <div class="grid items-end gap-3 pb-2 sm:grid-cols-3 lg:grid-cols-4">
          <PickField :at="`/positions/${lamp.id}/end`" label="End" :options="tables?.ends ?? []" none="not said" />
          <PickField :at="`/positions/${lamp.id}/side`" label="Side" :options="tables?.sides ?? []" none="not said" />
          <TextField :at="`/positions/${lamp.id}/place`" label="Place, in words" />
          <QuantityField :at="`/positions/${lamp.id}/holder/contacts`" label="Contacts" unit="" :step="1" />
          <PickField
            :at="`/positions/${lamp.id}/holder/polarity`"
            label="Earth contact, measured"
            :options="tables?.headlamp_contacts ?? []"
            none="not measured"
          />
          <PickField :at="`/positions/${lamp.id}/holder/retention`" label="Held by" :options="tables?.retentions ?? []" none="not known" />
          <PickField
            :at="`/positions/${lamp.id}/holder/connector`"
            label="Connector"
            :options="tables?.headlamp_connectors ?? []"
            none="not known"
          />
          <PickField :at="`/positions/${lamp.id}/lens`" label="Lens" :options="tables?.lenses ?? []" none="not said" />
          <YesNo
            v-if="lamp.loads.some((l) => l.role === 'tail')"
            :at="`/positions/${lamp.id}/plate_window`"
            label="A clear window in it lights the plate"
          />
          <button v-if="(lamp.count ?? 1) > 1" type="button" class="btn" @click="job.act('split', lamp.id)">
            Enter the {{ lamp.count }} one by one
          </button>
        </div>
        <div
          v-for="load in lamp.loads"
          :key="load.id"
          class="grid items-end gap-3 border-t border-line py-2 sm:grid-cols-3 lg:grid-cols-4"
          :data-load="load.id"
        >
          <PickField :at="`/loads/${load.id}/role`" label="What it does" :options="roles" />
          <PickField
            v-if="reference.filamentChoices(lamp.holder?.base).length"
            :at="`/loads/${load.id}/filament`"
            label="Filament"
            :options="reference.filamentChoices(lamp.holder?.base)"
            :fallback="views[load.id]?.filament ?? undefined"
          />
          <TextField :at="`/loads/${load.id}/contact`" label="Contact it sits on" />
          <PickField :at="`/loads/${load.id}/law`" label="Draw law" :options="reference.lawChoices" none="usual for its kind" />
          <PickField
            v-if="job.document!.circuits.length > 1"
            :at="`/loads/${load.id}/circuit`"
            label="Circuit"
            :options="job.document!.circuits.map((c) => ({ key: c.id, label: c.name ?? c.id }))"
          />
          <template v-if="figure(load)">
            <QuantityField
              v-if="!unrated(lamp)"
              :at="`/loads/${load.id}/figures/${figure(load)!.id}/${inWatts(load) ? 'watts' : 'amps'}`"
              :label="inWatts(load) ? 'Watts' : 'Amps'"
              :unit="inWatts(load) ? 'W' : 'A'"
            />
            <QuantityField :at="`/loads/${load.id}/figures/${figure(load)!.id}/volts`" label="Figure is at" unit="V" />
          </template>
          <button v-else-if="!unrated(lamp)" type="button" class="btn" @click="state(load, false)">Enter a stated draw</button>
          <YesNo v-if="load.role === 'head_low'" :at="`/loads/${load.id}/stays_on`" label="stays on with the high beam" />
          <YesNo
            v-if="load.role === 'position' || load.role === 'tail'"
            :at="`/loads/${load.id}/gives_way`"
            label="goes out while it flashes"
          />
          <button
            v-if="lamp.loads.length > 1"
            type="button"
            class="btn btn-bare"
            @click="job.edit([{ op: 'remove', at: `/loads/${load.id}` }])"
          >
            it does not do this
          </button>
        </div>
        <select class="field mt-1 max-w-80" :aria-label="`${lamp.name} does more`" @change="does(lamp, $event)">
          <option value="">it does more: add a function</option>
          <option v-for="r in roles" :key="r.key" :value="r.key">{{ r.label }}</option>
        </select>
      </details>
    </li>
  </ul>
</template>
