<script setup lang="ts">
import { computed, ref } from 'vue'
import { freshId, type Schemas } from '../api/client'
import { useEditor } from '../state/useEditor'
import { useReference } from '../state/useReference'
import PickField from '../ui/PickField.vue'
import QuantityField from '../ui/QuantityField.vue'
import YesNo from '../ui/YesNo.vue'
import ClaimFields from './ClaimFields.vue'
import ClaimNote from './ClaimNote.vue'

/** What one function of a part draws, and how it takes over. */
const props = defineProps<{ at: string; does: Schemas['job_function']; alone: boolean; claim?: Schemas['ClaimView'] | null }>()
defineEmits<{ remove: [] }>()
const editor = useEditor()
const reference = useReference()
const figure = computed(() => props.does.figures?.[0])
const label = computed(() => reference.tables?.functions.find((f) => f.key === props.does.does)?.label ?? 'What it does')
/** Whether its draw is typed in watts, though none is typed yet. */
const asked = ref<boolean>()
const watts = computed(() => asked.value ?? figure.value?.watts !== undefined)
const origins = computed(() => (reference.tables?.origins ?? []).filter((o) => ['maker', 'advertised', 'same_model'].includes(o.key)))
const laws = computed(() => (reference.tables?.laws ?? []).map((l) => ({ key: l.key, label: `${l.label}: ${l.used_for}` })))
const draws = computed(() => (props.does.how ?? 'part') === 'part')

function inWatts(yes: boolean) {
  if (!figure.value) return
  asked.value = yes
  const f = `${props.at}/figures/${figure.value.id}`
  editor.edit([
    { op: 'unset', at: `${f}/${yes ? 'amps' : 'watts'}` },
    { op: 'set', at: `${f}/origin`, value: yes ? 'advertised' : 'maker' },
  ])
}
function addFigure() {
  editor.edit([{ op: 'add', at: `${props.at}/figures`, value: { id: freshId(), origin: 'maker' } }])
}
</script>

<template>
  <fieldset class="border-t border-line pt-3 sm:col-span-2 lg:col-span-3" :aria-label="label">
    <div class="grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-4">
      <PickField
        :at="`${at}/does`"
        label="What it does"
        :options="reference.tables?.functions ?? []"
        :none="alone ? 'what the lamp does' : undefined"
      />
      <template v-if="draws">
        <PickField :at="`${at}/colour`" label="Colour of its light" :options="reference.tables?.colours ?? []" none="not said" />
        <template v-if="figure">
          <QuantityField v-if="!watts" :at="`${at}/figures/${figure.id}/amps`" label="Draws" unit="A" :step="0.05" />
          <QuantityField v-else :at="`${at}/figures/${figure.id}/watts`" label="Watts" unit="W" :step="1" />
          <QuantityField :at="`${at}/figures/${figure.id}/volts`" label="at" unit="V" placeholder="12" />
          <PickField :at="`${at}/figures/${figure.id}/origin`" label="Where from" :options="origins" />
        </template>
        <template v-else>
          <QuantityField :at="`${at}/share`" label="Share of full strength" unit="" :step="0.05" help="0.6: dimmed to six tenths" />
          <button type="button" class="btn self-end" @click="addFigure">Enter its own draw</button>
        </template>
      </template>
      <button v-if="draws && figure" type="button" class="btn" @click="inWatts(!watts)">
        {{ watts ? 'enter amps instead' : 'only advertised watts are known' }}
      </button>
      <p v-if="!draws" class="self-center text-dim sm:col-span-2">
        {{ reference.takenOver[does.how ?? 'part'] }}
      </p>
    </div>
    <details class="mt-1" :open="does.claim !== undefined || does.how !== undefined">
      <summary class="min-h-11 cursor-pointer py-2 text-dim">More of {{ label.toLowerCase() }}: law, limits, what its seller says</summary>
      <div class="grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-4">
        <PickField :at="`${at}/how`" label="Taken over" :options="reference.tables?.taken_over ?? []" fallback="part" />
        <PickField :at="`${at}/law`" label="Draw law" :options="laws" fallback="driver" />
        <QuantityField :at="`${at}/min_v`" label="Works from" unit="V" />
        <QuantityField :at="`${at}/max_v`" label="Stands up to" unit="V" />
        <QuantityField v-if="does.law === 'resistor'" :at="`${at}/forward_v`" label="Forward volts" unit="V" />
        <QuantityField :at="`${at}/lumens`" label="Lumens" unit="lm" :step="50" />
        <YesNo v-if="does.does === 'head_low'" :at="`${at}/stays_on`" label="stays on with the high beam" />
        <YesNo v-if="does.does === 'position' || does.does === 'tail'" :at="`${at}/gives_way`" label="goes out while it flashes" />
        <YesNo v-if="does.does === 'signal'" :at="`${at}/bridged`" label="works either way round" />
        <button v-if="!alone" type="button" class="btn btn-bare" @click="$emit('remove')">it does not do this</button>
      </div>
      <p class="mt-3 mb-1 font-semibold">Advertised: what does its seller say?</p>
      <ClaimFields :at="`${at}/claim`" />
      <ClaimNote v-if="claim" :claim="claim" />
    </details>
  </fieldset>
</template>
