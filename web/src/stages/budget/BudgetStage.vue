<script setup lang="ts">
import { computed } from 'vue'
import EarnChart from '../../charts/EarnChart.vue'
import VoltsChart from '../../charts/VoltsChart.vue'
import { useRail } from '../../rail/useRail'
import { useJob } from '../../state/useJob'
import FlagNote from '../../ui/FlagNote.vue'
import AccessoriesPart from './AccessoriesPart.vue'
import AssumptionsPart from './AssumptionsPart.vue'
import ChangesPart from './ChangesPart.vue'
import LightPart from './LightPart.vue'
import RidePart from './RidePart.vue'
import ScenarioEditor from './ScenarioEditor.vue'
import ScenarioTable from './ScenarioTable.vue'
import VerdictPart from './VerdictPart.vue'

const job = useJob()
const rail = useRail()
const budget = computed(() => job.budget!)
const flags = computed(() => budget.value.flags.filter((f) => f.key !== 'curve'))
const serious = computed(() => flags.value.filter((f) => f.level !== 'note'))
const notes = computed(() => flags.value.filter((f) => f.level === 'note'))
</script>

<template>
  <div class="max-w-[1180px]">
    <h2 class="sr-only">Budget</h2>
    <FlagNote v-for="f in serious" :key="f.key + f.side" :flag="f" class="mb-3" />
    <div class="grid gap-x-8 gap-y-6 min-[1000px]:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <div class="min-w-0">
        <EarnChart />
        <VoltsChart class="mt-3" />
        <LightPart v-if="rail.scenario.value" class="mt-4" />
      </div>
      <div class="min-w-0">
        <VerdictPart />
        <ScenarioTable class="mt-4" />
        <AccessoriesPart class="mt-6" />
      </div>
    </div>
    <div class="mt-8 grid gap-x-8 gap-y-6 min-[1000px]:grid-cols-2">
      <ChangesPart />
      <RidePart />
    </div>
    <FlagNote v-for="f in notes" :key="f.key + f.side" :flag="f" class="mt-4" />
    <ScenarioEditor class="mt-8" />
    <AssumptionsPart id="assumptions" class="mt-4" />
  </div>
</template>
