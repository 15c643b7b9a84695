<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { stageFor } from '../registry'
import { useJob } from '../../state/useJob'
import EmptyBox from '../../ui/EmptyBox.vue'
import FigureValue from '../../ui/FigureValue.vue'

/** What each swap, removal or added accessory does alone. */
defineProps<{ rows: Schemas['ChangeView'][] }>()
const job = useJob()
</script>

<template>
  <section aria-labelledby="changes-head">
    <h3 id="changes-head" class="mb-1 font-semibold text-dim">Each change’s own share</h3>
    <EmptyBox v-if="rows.length === 0">
      Nothing chosen yet.
      <RouterLink class="text-brass underline" :to="{ name: stageFor('shelf'), params: { id: job.id } }"
        >Choose a part for a lamp</RouterLink
      >
      and its share shows here.
    </EmptyBox>
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
              v-if="c.break_even && c.break_even.value !== null"
              :figure="c.break_even"
              name="Break-even with this change alone"
            /><span v-else class="text-dim" :title="c.break_even?.reason ?? ''">none</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
