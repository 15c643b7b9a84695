<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import FigureValue from '../../ui/FigureValue.vue'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'

const props = defineProps<{ ride: Schemas['BudgetView']['ride'] }>()
const job = useJob()
const legs = computed(() => job.document!.ride ?? [])
const scenarios = computed(() => job.document!.scenarios.map((s) => ({ key: s.id, label: s.name })))
const sides = computed(() =>
  (['before', 'after'] as const).map((s) => ({ side: s, label: s === 'before' ? 'as it came in' : 'after the change', ...props.ride[s] })),
)

function add() {
  job.edit([{ op: 'add', at: '/ride', value: { id: freshId(), minutes: 20, scenario: scenarios.value[0]?.key } }])
}
</script>

<template>
  <section aria-labelledby="ride-head">
    <h3 id="ride-head" class="mb-1 font-semibold text-dim">A usual ride</h3>
    <ul>
      <li v-for="leg in legs" :key="leg.id" class="flex items-end gap-2 border-b border-line py-1">
        <QuantityField :at="`/ride/${leg.id}/minutes`" label="Minutes" unit="min" hide-label :step="5" class="w-28" />
        <PickField :at="`/ride/${leg.id}/scenario`" label="Scenario" hide-label :options="scenarios" class="min-w-0 flex-1" />
        <QuantityField
          :at="`/ride/${leg.id}/rpm`"
          label="Engine speed"
          unit="rpm"
          hide-label
          placeholder="its own"
          :step="100"
          class="w-32"
        />
        <button
          type="button"
          class="btn btn-bare"
          aria-label="Remove this part of the ride"
          @click="job.edit([{ op: 'remove', at: `/ride/${leg.id}` }])"
        >
          ✕
        </button>
      </li>
    </ul>
    <button type="button" class="btn mt-2" @click="add">Add a part</button>
    <table v-if="legs.length" class="sheet mt-3 w-full" data-testid="ride">
      <thead>
        <tr>
          <th></th>
          <th class="r">net</th>
          <th class="r">battery, start → end</th>
          <th class="r">rides until no crank</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="s in sides" :key="s.side">
          <td>{{ s.label }}</td>
          <template v-if="s.net && s.net.value !== null">
            <td class="r font-bold" :class="s.net.value < 0 ? 'text-brick' : 'text-moss'">
              <FigureValue :figure="s.net" name="Net of the ride" sign sigma />
            </td>
            <td class="r num">{{ Math.round((s.charge_before ?? 0) * 100) }} → {{ Math.round((s.charge_after ?? 0) * 100) }} %</td>
            <td class="r num">{{ s.rides === null || s.rides === undefined ? 'never' : s.rides }}</td>
          </template>
          <td v-else colspan="3" class="text-dim">{{ s.reason ?? 'no battery on this machine' }}</td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
