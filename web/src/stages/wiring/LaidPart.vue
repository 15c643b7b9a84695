<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { focusOn } from '../../ui/focusOn'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'

/** The machine's places, switches that were added, spare leads, lever connectors. */
defineProps<{ view: Schemas['WiringView'] }>()
const job = useJob()
const wiring = computed(() => job.document?.wiring)
const LIGHTS = [
  { key: 'switch', label: 'with the light switch' },
  { key: 'with_key', label: 'with the key' },
]
function add(list: 'switches' | 'spares' | 'connectors', value: object) {
  const id = freshId()
  job.edit([{ op: 'add', at: `/wiring/${list}`, value: { id, ...value } }])
  focusOn(`/wiring/${list}/${id}/name`)
}
function away(list: string, id: string) {
  job.edit([{ op: 'remove', at: `/wiring/${list}/${id}` }])
}
</script>

<template>
  <section aria-labelledby="laid-head" data-testid="laid">
    <h3 id="laid-head" class="mb-2 text-lg">The machine</h3>
    <div class="grid gap-3 sm:grid-cols-3 lg:grid-cols-4">
      <PickField at="/wiring/lights" label="Lights come on" :options="LIGHTS" fallback="switch" />
      <PickField at="/wiring/battery_at" label="Battery" :options="view.options.places" :fallback="view.options.battery_at" />
      <QuantityField at="/wiring/fuse_a" label="The machine’s lighting fuse" unit="A" :step="5" help="empty: not known" />
      <QuantityField
        v-for="p in view.places"
        :key="p.key"
        :at="`/wiring/places/${p.key}`"
        :label="`${p.label} to ${p.to}`"
        unit="m"
        :step="0.05"
        :placeholder="p.metres.toFixed(2)"
      />
    </div>
    <p class="mt-1 text-sm text-dim">
      Lengths not measured are as usual on a middling machine; a bit of slack is added wherever the handlebar turns.
    </p>
    <h4 class="mt-4 mb-1 font-bold">Switches added</h4>
    <div v-for="s in wiring?.switches ?? []" :key="s.id" class="mb-2 flex flex-wrap items-end gap-3">
      <TextField :at="`/wiring/switches/${s.id}/name`" label="Switch" class="w-64" />
      <button type="button" class="btn" :disabled="job.readonly" @click="away('switches', s.id)">Take away</button>
    </div>
    <button type="button" class="btn" :disabled="job.readonly" @click="add('switches', { name: 'Bar switch' })">Add a switch</button>
    <h4 class="mt-4 mb-1 font-bold">Spare leads of a harness</h4>
    <div v-for="s in wiring?.spares ?? []" :key="s.id" class="mb-2 grid items-end gap-3 sm:grid-cols-5">
      <TextField :at="`/wiring/spares/${s.id}/name`" label="Lead" />
      <TextField :at="`/wiring/spares/${s.id}/colour`" label="Colour" />
      <YesNo :at="`/wiring/spares/${s.id}/live`" label="live" />
      <YesNo :at="`/wiring/spares/${s.id}/capped`" label="capped" />
      <button type="button" class="btn justify-self-start" :disabled="job.readonly" @click="away('spares', s.id)">Take away</button>
    </div>
    <button type="button" class="btn" :disabled="job.readonly" @click="add('spares', { name: 'Spare lead' })">Add a spare lead</button>
    <h4 class="mt-4 mb-1 font-bold">Lever connectors</h4>
    <div v-for="c in wiring?.connectors ?? []" :key="c.id" class="mb-2 grid items-end gap-3 sm:grid-cols-5">
      <TextField :at="`/wiring/connectors/${c.id}/name`" label="Connector" />
      <QuantityField :at="`/wiring/connectors/${c.id}/wires`" label="Wires in it" unit="1" :step="1" />
      <QuantityField :at="`/wiring/connectors/${c.id}/ports`" label="Ports" unit="1" :step="1" :help="view.options.usual.ports" />
      <QuantityField :at="`/wiring/connectors/${c.id}/shared`" label="Thin wires sharing a port" unit="1" :step="1" />
      <button type="button" class="btn justify-self-start" :disabled="job.readonly" @click="away('connectors', c.id)">Take away</button>
    </div>
    <button type="button" class="btn" :disabled="job.readonly" @click="add('connectors', { name: 'Lever connector', wires: 2 })">
      Add a connector
    </button>
  </section>
</template>
