<script setup lang="ts">
import { computed } from 'vue'
import { freshId } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import Term from '../../ui/Term.vue'

const job = useJob()
const reference = useReference()
const current = computed(() => job.document!.scenarios.find((s) => s.id === job.rail?.scenario))
const roles = computed(() =>
  [...new Set(job.document!.loads.map((l) => l.role))].map((r) => ({ key: r, label: reference.roles[r]?.label ?? r })),
)
const ENGINES = [
  { key: 'running', label: 'running' },
  { key: 'key_on', label: 'off, key on' },
  { key: 'parked', label: 'parked, key off' },
]
const SPEEDS = [
  { key: 'idle', label: 'idle' },
  { key: 'slow', label: 'slow trail' },
  { key: 'cruise', label: 'cruise' },
]

async function add() {
  const id = freshId()
  const copy = current.value ? { ...current.value } : { engine: 'running' as const, speed: 'cruise' as const, duties: {} }
  await job.edit([
    {
      op: 'add',
      at: '/scenarios',
      value: { ...copy, id, name: current.value ? `${current.value.name}, copy`.slice(0, 60) : 'New scenario' },
    },
  ])
  await job.look({ scenario: id })
}
function remove() {
  if (!current.value) return
  job.edit([{ op: 'remove', at: `/scenarios/${current.value.id}` }])
}
</script>

<template>
  <details class="border-t border-line">
    <summary class="min-h-11 cursor-pointer py-2 text-lg font-semibold">Scenarios: speeds and <Term of="duty">duties</Term></summary>
    <p class="mb-3 text-dim">This edits the scenario chosen on the rail.</p>
    <div v-if="current" class="flex flex-wrap items-end gap-3">
      <TextField :at="`/scenarios/${current.id}/name`" label="Name" class="w-72" />
      <PickField :at="`/scenarios/${current.id}/engine`" label="Engine" :options="ENGINES" class="w-44" />
      <template v-if="current.engine === 'running'">
        <PickField :at="`/scenarios/${current.id}/speed`" label="Speed" :options="SPEEDS" none="as entered" class="w-36" />
        <QuantityField :at="`/scenarios/${current.id}/rpm`" label="or its own" unit="rpm" :step="100" class="w-36" />
      </template>
      <button type="button" class="btn" @click="add">Copy it</button>
      <button type="button" class="btn" @click="remove">Remove it</button>
    </div>
    <button v-else type="button" class="btn" @click="add">Add a scenario</button>
    <div v-if="current && current.engine !== 'parked'" class="mt-4 grid gap-3 sm:grid-cols-3 lg:grid-cols-5">
      <QuantityField
        v-for="r in roles"
        :key="r.key"
        :at="`/scenarios/${current.id}/duties/${r.key}`"
        :label="r.label"
        unit=""
        :step="0.05"
        placeholder="0"
        help=""
      />
    </div>
    <p v-else-if="current" class="mt-3 text-dim">Parked: only the key-off draws of the loads count.</p>
  </details>
</template>
