<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import EmptyBox from '../../ui/EmptyBox.vue'
import PickField from '../../ui/PickField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'

/** Which colour does what: on the machine, on each part, and joined. */
const props = defineProps<{ view: Schemas['WiringView'] }>()
const job = useJob()
const rows = computed(() => job.document?.wiring?.colours ?? [])
const functions = computed(() => [...props.view.options.lines, { key: 'earth', label: 'earth (31)' }])
const parts = computed(() => props.view.loads.map((l) => ({ key: l.id, label: l.name })))
const label = (key?: string) => functions.value.find((f) => f.key === key)?.label ?? key ?? ''
const joined = computed(() =>
  functions.value
    .map((f) => ({
      ...f,
      machine: rows.value.filter((r) => r.function === f.key && !r.of),
      parts: rows.value.filter((r) => r.function === f.key && r.of),
    }))
    .filter((f) => f.machine.length && f.parts.length),
)
const nameOf = (id?: string) => props.view.loads.find((l) => l.id === id)?.name ?? id
function add() {
  job.edit([{ op: 'add', at: '/wiring/colours', value: { id: freshId() } }])
}
</script>

<template>
  <section aria-labelledby="colours-head" data-testid="colours">
    <h3 id="colours-head" class="mb-1 text-lg">Colours</h3>
    <p class="mb-2">
      Colours mean nothing across makers: on one make brown is earth, on another it is left. Prove each wire with the meter.
    </p>
    <table v-if="joined.length" class="sheet mb-4 w-full text-lg" data-testid="joining">
      <thead>
        <tr>
          <th>what it does</th>
          <th>machine</th>
          <th>joins</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="f in joined" :key="f.key">
          <td>{{ f.label }}</td>
          <td class="font-bold">
            <span v-for="m in f.machine" :key="m.id">{{ m.colour || '?' }}{{ m.proved ? ' ✓' : ' (not proved)' }} </span>
          </td>
          <td class="font-bold">
            <span v-for="p in f.parts" :key="p.id" class="block"
              >{{ p.colour || '?' }}{{ p.proved ? ' ✓' : '' }} <span class="font-normal">{{ nameOf(p.of) }}</span></span
            >
          </td>
        </tr>
      </tbody>
    </table>
    <EmptyBox v-if="!rows.length" class="mb-3">No colour entered yet.</EmptyBox>
    <div v-for="r in rows" :key="r.id" class="no-print mb-2 grid items-end gap-3 sm:grid-cols-5" :data-colour="label(r.function)">
      <PickField :at="`/wiring/colours/${r.id}/of`" label="On" :options="parts" none="the machine" />
      <PickField :at="`/wiring/colours/${r.id}/function`" label="What it does" :options="functions" none="choose" />
      <TextField :at="`/wiring/colours/${r.id}/colour`" label="Colour as found" />
      <YesNo :at="`/wiring/colours/${r.id}/proved`" label="proved with the meter" />
      <button
        type="button"
        class="btn justify-self-start"
        :disabled="job.readonly"
        @click="job.edit([{ op: 'remove', at: `/wiring/colours/${r.id}` }])"
      >
        Take away
      </button>
    </div>
    <button type="button" class="btn no-print" :disabled="job.readonly" @click="add">Add a colour</button>
  </section>
</template>
