<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../../state/useJob'
import FigureValue from '../../ui/FigureValue.vue'

const job = useJob()
const rows = computed(() => job.budget!.changes.map((c) => ({ ...c, here: c.scenarios.find((s) => s.id === job.budget!.scenario) })))
</script>

<template>
  <section aria-labelledby="changes-head">
    <h3 id="changes-head" class="mb-1 font-semibold text-dim">Each change’s own share</h3>
    <p v-if="rows.length === 0" class="border-2 border-dashed border-line p-4 text-dim">
      Nothing chosen yet.
      <RouterLink class="text-brass underline" :to="{ name: 'choose', params: { id: job.id } }">Choose a part for a lamp</RouterLink> and
      its share shows here.
    </p>
    <table v-else class="sheet w-full">
      <thead>
        <tr>
          <th>change</th>
          <th class="r">saves, while on</th>
          <th class="r">break-even, alone</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="c in rows" :key="c.load_id">
          <td>
            <span class="font-semibold">{{ c.name }}</span><span class="block text-sm text-dim">{{
              c.from ? (c.to ?? 'removed') : 'added'
            }}</span>
          </td>
          <td class="r" :class="(c.saving.value ?? 0) < 0 ? 'text-brick' : 'text-moss'">
            <FigureValue :figure="c.saving" :name="`Saved by ${c.name}`" sign fine />
          </td>
          <td class="r">
            <FigureValue
              v-if="c.here && c.here.break_even.value !== null"
              :figure="c.here.break_even"
              name="Break-even with this change alone"
            /><span v-else class="text-dim" :title="c.here?.break_even.reason ?? ''">none</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
