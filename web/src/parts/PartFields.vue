<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Part } from '../api/client'
import type { Schemas } from '../api/client'
import { useEditor } from '../state/useEditor'
import { useReference } from '../state/useReference'
import PickField from '../ui/PickField.vue'
import QuantityField from '../ui/QuantityField.vue'
import TextField from '../ui/TextField.vue'
import YesNo from '../ui/YesNo.vue'
import FitFields from './FitFields.vue'
import FunctionFields from './FunctionFields.vue'
import OutputFields from './OutputFields.vue'

/** One article: what it is, what it does, what it costs; of a headlight, its measurements. */
const props = defineProps<{
  at: string
  part: Part
  head?: boolean
  kind?: Part['kind']
  claims?: Record<string, Schemas['ClaimView'] | null>
}>()
const editor = useEditor()
const reference = useReference()
const bases = computed(() =>
  (reference.tables?.bases ?? []).map((b) => ({ key: b.key, label: `${b.key}${b.trade ? ` (${b.trade})` : ''}` })),
)
const BOXES = [
  { key: 'hub', label: 'isolating hub' },
  { key: 'controller', label: 'two-channel controller' },
]
const OWN = [
  { key: 'fuse_a', label: 'Fuse at the battery', step: 5 },
  { key: 'quiescent_a', label: 'It takes itself, key on', step: 0.01 },
  { key: 'key_off_a', label: 'It takes itself, key off', step: 0.001 },
]
const LIMITS = {
  hub: [
    { key: 'total_a', label: 'In all', step: 5 },
    { key: 'hot_a', label: 'Always hot', step: 1 },
    { key: 'switched_a', label: 'Switched', step: 1 },
    { key: 'lamp_a', label: 'Each lamp function', step: 1 },
    ...OWN,
  ],
  controller: OWN,
}
const functions = computed(() => props.part.functions ?? [])

function addFunction(event: Event) {
  const does = (event.target as HTMLSelectElement).value
  ;(event.target as HTMLSelectElement).value = ''
  if (does)
    editor.edit([{ op: 'add', at: `${props.at}/functions`, value: { id: freshId(), does, figures: [{ id: freshId(), origin: 'maker' }] } }])
}
</script>

<template>
  <div class="grid gap-3 sm:grid-cols-2 lg:grid-cols-3" data-testid="part-fields">
    <TextField :at="`${at}/name`" label="Part" />
    <PickField
      v-if="!kind && !part.box"
      :at="`${at}/use`"
      label="Small part"
      :options="reference.tables?.uses ?? []"
      none="none: it lights"
    />
    <TextField v-if="part.use" :at="`${at}/use_size`" label="Of size" help="a fuse’s amps, a wire’s mm²; empty: any" />
    <PickField v-if="!kind && !part.use" :at="`${at}/box`" label="Hub or controller" :options="BOXES" none="neither: a lamp part" />
    <template v-if="part.box">
      <QuantityField v-for="l in LIMITS[part.box]" :key="l.key" :at="`${at}/${l.key}`" :label="l.label" unit="A" :step="l.step" />
      <TextField :at="`${at}/lead_colours`" label="Colours of its leads" class="sm:col-span-2" />
      <OutputFields
        v-if="part.box === 'hub'"
        class="sm:col-span-2 lg:col-span-3"
        :at="`${at}/outputs`"
        :outputs="part.outputs"
        :lines="reference.tables?.feed_lines ?? []"
      />
    </template>
    <template v-if="!part.use">
      <PickField v-if="!part.box" :at="`${at}/base`" label="Bulb base" :options="bases" none="not stated" />
      <PickField v-if="!part.box" :at="`${at}/supply`" label="Supply" :options="reference.tables?.supplies ?? []" none="not stated" />
      <FunctionFields
        v-for="f in functions"
        :key="f.id"
        :at="`${at}/functions/${f.id}`"
        :does="f"
        :alone="functions.length === 1"
        :claim="claims?.[f.id]"
        @remove="editor.edit([{ op: 'remove', at: `${at}/functions/${f.id}` }])"
      />
      <div v-if="!part.box" class="border-t border-line pt-3 sm:col-span-2 lg:col-span-3">
        <select class="field max-w-80" aria-label="It does more" @change="addFunction">
          <option value="">it does more: add a function</option>
          <option v-for="f in reference.tables?.functions" :key="f.key" :value="f.key">{{ f.label }}</option>
        </select>
      </div>
    </template>
    <QuantityField :at="`${at}/price_cents`" label="Price, where nobody lists it" unit="" cents />
    <QuantityField v-if="!part.use" :at="`${at}/minutes`" label="Fitting time" unit="min" :step="5" />
    <QuantityField :at="`${at}/pack`" label="Sold in packs of" unit="" :step="1" placeholder="1" />
    <QuantityField :at="`${at}/warranty_months`" label="Warranty" unit="months" :step="12" />
    <TextField :at="`${at}/category`" label="Category" help="what a supplier’s discount may be on" />
    <YesNo :at="`${at}/warranty_lifetime`" label="Warranty for life" />
    <YesNo v-if="!part.use && !part.box" :at="`${at}/adhesive`" label="Glued on" />
    <TextField :at="`${at}/note`" label="Note" class="sm:col-span-2" />
    <details
      v-if="head && !part.box && !part.use"
      class="sm:col-span-2 lg:col-span-3"
      :open="part.kind !== undefined"
      data-testid="fit-fields"
    >
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Measurements, for the fit of a headlight</summary>
      <FitFields :at="at" :part="part" :kind="kind" />
      <slot />
    </details>
  </div>
</template>
