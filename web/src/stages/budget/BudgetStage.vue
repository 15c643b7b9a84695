<script setup lang="ts">
import { computed } from 'vue'
import EarnChart from '../../charts/EarnChart.vue'
import VoltsChart from '../../charts/VoltsChart.vue'
import { useRail } from '../../rail/useRail'
import AccessoriesPart from '../../parts/AccessoriesPart.vue'
import { useStageView } from '../../state/useStageView'
import FailNote from '../../ui/FailNote.vue'
import FlagNote from '../../ui/FlagNote.vue'
import AssumptionsPart from './AssumptionsPart.vue'
import ChangesPart from './ChangesPart.vue'
import LightPart from './LightPart.vue'
import RidePart from './RidePart.vue'
import ScenarioEditor from './ScenarioEditor.vue'
import ScenarioTable from './ScenarioTable.vue'
import VerdictPart from './VerdictPart.vue'

const rail = useRail()
const { view, failed } = useStageView('budget')
const serious = computed(() => view.value?.flags.filter((f) => f.serious) ?? [])
const notes = computed(() => view.value?.flags.filter((f) => !f.serious) ?? [])
</script>

<template>
  <div class="max-w-[1180px]">
    <h2 class="sr-only">Budget</h2>
    <FailNote :text="failed" />
    <FlagNote v-for="f in serious" :key="f.key + f.side" :flag="f" class="mb-3" />
    <div class="grid gap-x-8 gap-y-6 min-[1000px]:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <div class="min-w-0">
        <EarnChart />
        <VoltsChart class="mt-3" />
        <LightPart v-if="rail.scenario.value && view" :light="view.light" class="mt-4" />
      </div>
      <div class="min-w-0">
        <template v-if="view">
          <VerdictPart :verdict="view.verdict" />
          <ScenarioTable :view="view" class="mt-4" />
          <AccessoriesPart :rows="view.accessories" class="mt-6" />
        </template>
      </div>
    </div>
    <div class="mt-8 grid gap-x-8 gap-y-6 min-[1000px]:grid-cols-2">
      <template v-if="view">
        <ChangesPart :rows="view.changes" />
        <RidePart :ride="view.ride" />
      </template>
    </div>
    <FlagNote v-for="f in notes" :key="f.key + f.side" :flag="f" class="mt-4" />
    <ScenarioEditor class="mt-8" />
    <AssumptionsPart id="assumptions" class="mt-4" />
  </div>
</template>
