<script setup lang="ts">
import { computed } from 'vue'
import type { Part } from '../api/client'
import { useReference } from '../state/useReference'
import PickField from '../ui/PickField.vue'
import QuantityField from '../ui/QuantityField.vue'
import YesNo from '../ui/YesNo.vue'

/** What is measured, or printed on the box, of a headlight part. */
const props = defineProps<{ at: string; part: Part; kind?: Part['kind'] }>()
const tables = computed(() => useReference().tables)
const said = computed(() => props.part.kind ?? props.kind ?? 'bulb')
const bulb = computed(() => said.value === 'bulb')
</script>

<template>
  <div class="grid gap-3 sm:grid-cols-3" data-testid="candidate-fields">
    <PickField :at="`${at}/kind`" label="Kind of part" :options="tables?.headlamp_kinds ?? []" :fallback="said" />
    <PickField v-if="!bulb" :at="`${at}/size`" label="Size" :options="tables?.unit_sizes ?? []" none="not known" />
    <QuantityField :at="`${at}/behind_m`" label="Length behind the plane" unit="m" small :step="1" />
    <QuantityField :at="`${at}/driver_m`" label="Driver box (0 without)" unit="m" small :step="1" />
    <QuantityField :at="`${at}/lead_m`" label="Its lead (0 without)" unit="m" small :step="10" />
    <PickField :at="`${at}/connector`" label="Connector" :options="tables?.headlamp_connectors ?? []" none="not known" />
    <PickField :at="`${at}/polarity`" label="Earth wanted at" :options="tables?.headlamp_polarities ?? []" none="not known" />
    <QuantityField :at="`${at}/weight_kg`" label="Weight" unit="kg" :step="0.01" />
    <template v-if="bulb">
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
    <YesNo :at="`${at}/sealed`" label="sealed against water" />
    <YesNo :at="`${at}/heated_lens`" label="heated lens" />
    <PickField :at="`${at}/marks`" label="Approval marks" :options="tables?.marks ?? []" none="not known" />
  </div>
</template>
