<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { plain, toneOf } from '../../ui/format'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import Caution from '../../ui/Caution.vue'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'

/** Everything to read before parts come off, and again afterwards. */
const props = defineProps<{ baseline: Schemas['ReadingsView']['baseline'] }>()
defineEmits<{ draw: [subject: string]; points: [] }>()
const side = ref<'before' | 'after'>('before')
const items = computed(() => props.baseline[side.value])
const left = computed(() => items.value.filter((i) => !i.done).length)
const SIDES = [
  { key: 'before', label: 'As it came in' },
  { key: 'after', label: 'After' },
] as const

function figure(item: Schemas['BaselineItem']) {
  return item.value === null ? 'not read' : `${plain(item.value, item.unit === 'A' ? 2 : 1)} ${item.unit ?? ''}`
}
</script>

<template>
  <section aria-labelledby="baseline-head" class="max-w-4xl" data-testid="baseline">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h3 id="baseline-head" class="text-lg">
        {{ side === 'before' ? 'Before anything comes off' : 'The same again, after the change' }}:
        <span :class="left ? 'text-brass' : 'text-moss'">{{ left ? `${left} still to read` : 'all read' }}</span>
      </h3>
      <ChoiceRow class="ml-auto" label="Side" :options="SIDES" :value="side" @pick="side = $event" />
    </div>
    <Caution of="running_engine" class="mb-2" />
    <div class="overflow-x-auto print:overflow-visible">
      <table class="sheet w-full">
        <thead>
          <tr>
            <th><span class="sr-only">state</span></th>
            <th>what</th>
            <th>reading</th>
            <th>says</th>
            <th class="r">takes from the doubt</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="i in items" :key="i.key" :data-item="i.key">
            <td>
              <span class="inline-block h-4 w-4 border-2 border-dim" :class="i.done ? 'bg-dim' : ''" aria-hidden="true" /><span
                class="sr-only"
                >{{ i.done ? 'read' : 'to read' }}</span
              >
            </td>
            <td>
              <span v-if="i.next" class="mr-2 font-bold text-brass" data-testid="next-item">next</span
              ><span class="font-semibold">{{ i.label }}</span
              ><span v-if="!i.done && i.why" class="block text-sm text-dim">{{ i.why }}</span>
            </td>
            <td class="min-w-44">
              <YesNo v-if="i.key === 'tried'" :at="i.at" label="tried, all work or noted" />
              <button v-else-if="i.subject" type="button" class="btn" @click="$emit('draw', i.subject)">
                {{ i.done ? figure(i) : 'read it' }}
              </button>
              <button v-else-if="i.key.startsWith('points/')" type="button" class="btn" @click="$emit('points')">
                {{ i.done ? 'measured' : 'measure it' }}
              </button>
              <QuantityField v-else :at="i.at" :label="i.label" :unit="i.unit === '1/min' ? '/min' : (i.unit ?? '')" hide-label />
            </td>
            <td>
              <span v-if="i.call" :class="toneOf(i.call.verdict)" class="font-semibold">{{ i.call.text }}</span>
            </td>
            <td class="r num">{{ i.share !== null && i.share >= 0.005 ? `${Math.round(i.share * 100)} %` : '' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
