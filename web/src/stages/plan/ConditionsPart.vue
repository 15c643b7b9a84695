<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import DayField from '../../ui/DayField.vue'
import QuantityField from '../../ui/QuantityField.vue'

/** What the owner wants of a plan. */
const props = defineProps<{ view: Schemas['PlanView'] }>()
const job = useJob()
const TOGGLES = [
  { key: 'carry_all', label: 'every accessory carried' },
  { key: 'no_cuts', label: 'nothing cut' },
  { key: 'marked', label: 'headlamps with marks' },
  { key: 'no_glare', label: 'nothing that may blind more' },
  { key: 'heat', label: 'one filament headlamp for heat' },
] as const
const keeps = computed(() => props.view.wanted.keeps)

function toggleKeeps(id: string) {
  const list = keeps.value.includes(id) ? keeps.value.filter((k) => k !== id) : [...keeps.value, id]
  job.set('/plan/keeps', list)
}
</script>

<template>
  <fieldset class="mb-4 grid gap-3 border-0 p-0" :disabled="job.readonly" data-testid="conditions">
    <legend class="sr-only">What is wanted</legend>
    <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
      <span class="text-dim">best is</span>
      <ChoiceRow label="Best is" :options="view.aims" :value="view.wanted.aim" @pick="(k: string) => job.set('/plan/aim', k)" />
    </div>
    <div class="flex flex-wrap items-center gap-2">
      <span class="text-dim">only what</span>
      <button
        v-for="s in view.scenarios"
        :key="s.id"
        type="button"
        class="btn"
        :aria-pressed="keeps.includes(s.id)"
        :data-keeps="s.id"
        @click="toggleKeeps(s.id)"
      >
        keeps: {{ s.name }}
      </button>
    </div>
    <div class="flex flex-wrap items-center gap-2">
      <button
        v-for="t in TOGGLES"
        :key="t.key"
        type="button"
        class="btn"
        :aria-pressed="view.wanted[t.key] === true"
        :data-toggle="t.key"
        @click="job.set(`/plan/${t.key}`, view.wanted[t.key] !== true)"
      >
        {{ t.label }}
      </button>
    </div>
    <div class="flex flex-wrap items-end gap-3">
      <div class="w-36"><QuantityField at="/plan/money_cents" label="Money, at most" unit="" cents /></div>
      <div class="w-36"><QuantityField at="/plan/minutes" label="Time, at most" unit="min" :step="15" /></div>
      <div class="w-44"><DayField at="/plan/by" label="All here by" /></div>
      <label class="block"
        ><span class="text-dim">Looked at</span>
        <select
          class="field"
          :value="view.wanted.axis ?? ''"
          data-at="/plan/axis"
          @change="job.set('/plan/axis', ($event.target as HTMLSelectElement).value)"
        >
          <option v-for="s in view.scenarios" :key="s.id" :value="s.id">{{ s.name }}</option>
        </select></label
      >
    </div>
  </fieldset>
</template>
