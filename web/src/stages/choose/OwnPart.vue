<script setup lang="ts">
import { computed, ref } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import ClaimFields from '../../parts/ClaimFields.vue'
import ClaimNote from '../../parts/ClaimNote.vue'

const props = defineProps<{ choice: Schemas['job_choice']; claim?: Schemas['ClaimView'] }>()
const job = useJob()
const reference = useReference()
const at = computed(() => `/choices/${props.choice.id}/part`)
const figure = computed(() => props.choice.part?.figures?.[0])
/** Whether its draw is typed in watts, though none is typed yet. */
const asked = ref<boolean>()
const watts = computed(() => asked.value ?? figure.value?.watts !== undefined)
const origins = computed(() => (reference.tables?.origins ?? []).filter((o) => ['maker', 'advertised', 'same_model'].includes(o.key)))
const laws = computed(() => (reference.tables?.laws ?? []).map((l) => ({ key: l.key, label: `${l.label}: ${l.used_for}` })))

function inWatts(yes: boolean) {
  if (!figure.value) return
  asked.value = yes
  const f = `${at.value}/figures/${figure.value.id}`
  job.edit(
    yes
      ? [
          { op: 'unset', at: `${f}/amps` },
          { op: 'set', at: `${f}/origin`, value: 'advertised' },
        ]
      : [
          { op: 'unset', at: `${f}/watts` },
          { op: 'set', at: `${f}/origin`, value: 'maker' },
        ],
  )
}
function addFigure() {
  job.edit([{ op: 'add', at: `${at.value}/figures`, value: { id: freshId(), origin: 'maker' } }])
}
</script>

<template>
  <div class="mb-5 grid gap-3 border-l-4 border-brass bg-leaf p-3 sm:grid-cols-2 lg:grid-cols-3" data-testid="own-part">
    <TextField :at="`${at}/name`" label="Part" />
    <PickField :at="`${at}/law`" label="Draw law" :options="laws" fallback="driver" />
    <PickField :at="`${at}/supply`" label="Supply" :options="reference.tables?.supplies ?? []" none="not stated" />
    <template v-if="figure">
      <QuantityField v-if="!watts" :at="`${at}/figures/${figure.id}/amps`" label="Draws" unit="A" :step="0.05" />
      <QuantityField v-else :at="`${at}/figures/${figure.id}/watts`" label="Watts" unit="W" :step="1" />
      <QuantityField :at="`${at}/figures/${figure.id}/volts`" label="at" unit="V" placeholder="12" />
      <PickField :at="`${at}/figures/${figure.id}/origin`" label="Where from" :options="origins" />
      <button type="button" class="btn self-end" @click="inWatts(!watts)">
        {{ watts ? 'enter amps instead' : 'only advertised watts are known' }}
      </button>
    </template>
    <button v-else type="button" class="btn self-end" @click="addFigure">Enter its draw</button>
    <QuantityField :at="`${at}/min_v`" label="Works from" unit="V" />
    <QuantityField v-if="choice.part?.law === 'resistor'" :at="`${at}/forward_v`" label="Forward volts" unit="V" />
    <QuantityField :at="`${at}/max_v`" label="Stands up to" unit="V" />
    <QuantityField :at="`${at}/price_cents`" label="Price" unit="" cents />
    <QuantityField :at="`${at}/minutes`" label="Fitting time" unit="min" :step="5" />
    <details class="sm:col-span-2 lg:col-span-3" :open="choice.part?.claim !== undefined">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Advertised: what does its seller say?</summary>
      <ClaimFields :at="`${at}/claim`" />
      <ClaimNote v-if="claim" :claim="claim" />
    </details>
  </div>
</template>
