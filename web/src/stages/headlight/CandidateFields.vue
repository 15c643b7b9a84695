<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { usePhotometryFile } from '../../state/usePhotometryFile'
import { plain } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'

/** What is measured, or printed on the box, of one part. */
const props = defineProps<{
  at: string
  part: Schemas['job_candidate']
  /** V at which a draw is stated where nothing is said. */
  statedV: number
}>()
const job = useJob()
const reference = useReference()
const tables = computed(() => reference.tables)
const caps = computed(() => (tables.value?.headlamp_caps ?? []).map((key) => ({ key, label: key })))
const statedVolts = computed(() => plain(props.statedV, 1))
const { take, failed } = usePhotometryFile()
const files = computed(() => (job.document?.beam?.photometry ?? []).map((f) => ({ key: f.id, label: f.name })))
</script>

<template>
  <div class="grid gap-3 sm:grid-cols-3" data-testid="candidate-fields">
    <TextField :at="`${at}/name`" label="Part" />
    <PickField :at="`${at}/kind`" label="School" :options="tables?.headlamp_kinds ?? []" />
    <PickField v-if="part.kind === 'bulb'" :at="`${at}/cap`" label="Lamp cap" :options="caps" none="not known" />
    <PickField v-else :at="`${at}/size`" label="Size" :options="tables?.unit_sizes ?? []" none="not known" />
    <QuantityField :at="`${at}/behind_m`" label="Length behind the plane" unit="m" small :step="1" />
    <QuantityField :at="`${at}/driver_m`" label="Driver box (0 without)" unit="m" small :step="1" />
    <QuantityField :at="`${at}/lead_m`" label="Its lead (0 without)" unit="m" small :step="10" />
    <PickField :at="`${at}/connector`" label="Connector" :options="tables?.headlamp_connectors ?? []" none="not known" />
    <PickField :at="`${at}/polarity`" label="Earth wanted at" :options="tables?.headlamp_polarities ?? []" none="not known" />
    <QuantityField :at="`${at}/weight_kg`" label="Weight" unit="kg" :step="0.01" />
    <template v-if="part.kind === 'bulb'">
      <QuantityField :at="`${at}/fin_m`" label="Largest fin" unit="m" small :step="0.1" />
      <QuantityField :at="`${at}/tab_m`" label="Tab thickness" unit="m" small :step="0.1" />
      <QuantityField :at="`${at}/body_m`" label="Body where the boot sits" unit="m" small :step="0.5" />
      <QuantityField :at="`${at}/emitter_m`" label="Plane to chip" unit="m" small :step="0.1" />
      <QuantityField :at="`${at}/before_m`" label="Length before the plane" unit="m" small :step="0.5" />
      <QuantityField :at="`${at}/plane_m`" label="Thickness between chips" unit="m" small :step="0.1" />
      <QuantityField :at="`${at}/clock_deg`" label="Chips’ clock angle from 12" unit="°" :step="5" />
      <YesNo :at="`${at}/collar_turns`" label="collar turns" />
      <YesNo :at="`${at}/mark_up`" label="mark comes uppermost" />
    </template>
    <template v-else>
      <QuantityField :at="`${at}/direct_from`" label="Fits directly from" unit="" />
      <QuantityField :at="`${at}/direct_to`" label="to" unit="" />
      <QuantityField :at="`${at}/ring_from`" label="With ring from" unit="" />
      <QuantityField :at="`${at}/ring_to`" label="to" unit="" />
      <QuantityField :at="`${at}/harness_from`" label="With adapter harness from" unit="" />
      <QuantityField :at="`${at}/harness_to`" label="to" unit="" />
    </template>
    <PickField :at="`${at}/supply`" label="Supply" :options="tables?.supplies ?? []" none="not stated" />
    <YesNo :at="`${at}/sealed`" label="sealed against water" />
    <YesNo :at="`${at}/heated_lens`" label="heated lens" />
    <PickField :at="`${at}/marks`" label="Approval marks" :options="tables?.marks ?? []" none="not known" />
    <QuantityField :at="`${at}/amps`" label="Draws, dipped" unit="A" :step="0.05" />
    <QuantityField :at="`${at}/amps_v`" label="at" unit="V" :placeholder="statedVolts" />
    <QuantityField :at="`${at}/lumens`" label="Lumens, dipped" unit="lm" :step="50" />
    <QuantityField :at="`${at}/price_cents`" label="Price" unit="" cents />
    <div>
      <PickField v-if="files.length" :at="`${at}/photometry`" label="Photometry" :options="files" none="none" />
      <label class="btn mt-1">
        Add its LM-63 file
        <input type="file" accept=".ies,.txt" class="sr-only" :aria-label="`Photometry of ${part.name}`" @change="take($event, part.id)" />
      </label>
      <span class="block text-sm text-brick" role="alert">{{ failed }}</span>
    </div>
  </div>
</template>
