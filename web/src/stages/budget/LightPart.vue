<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useRail } from '../../rail/useRail'
import { useWorking } from '../../state/useWorking'

const props = defineProps<{ light: Schemas['BudgetView']['light'] }>()
const rail = useRail()
const working = useWorking()
const rows = computed(() => {
  const before = props.light.before?.lamps ?? []
  const after = props.light.after?.lamps ?? []
  const names = new Map([...before, ...after].map((l) => [l.load, l.name]))
  return [...names.keys()].map((load) => ({
    load,
    before: before.find((l) => l.load === load),
    after: after.find((l) => l.load === load),
  }))
})
const flicker = computed(() => props.light.after?.flicker_hz)
type Lit = (typeof rows.value)[number]['before']
const percent = (lit: Lit) => {
  const share = lit?.share.value
  return share === undefined || share === null ? '–' : share > 9.99 ? 'over 999 %' : `${Math.round(share * 100)} %`
}
</script>

<template>
  <section v-if="rows.length" aria-labelledby="light-head">
    <h3 id="light-head" class="mb-1 font-semibold text-dim">
      Light at the volts it really has, share of rated, {{ rail.scenario.value?.name.toLowerCase() }}
    </h3>
    <table class="sheet w-full">
      <thead>
        <tr>
          <th>lamp</th>
          <th class="r">came in</th>
          <th class="r">after</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="r in rows" :key="r.load">
          <td>
            {{ r.before?.name ?? r.after?.name
            }}<span v-if="r.after && r.before && r.after.name !== r.before.name" class="block text-sm text-dim">{{ r.after.name }}</span>
          </td>
          <td class="r">
            <button
              v-if="r.before"
              type="button"
              class="num min-h-8 underline decoration-line decoration-dotted underline-offset-4"
              @click="working.open(r.before.share.id!)"
            >
              {{ percent(r.before) }}</button><span v-else>–</span
            ><span v-if="r.before?.life" class="block text-sm text-brick">{{ r.before.life }}</span>
          </td>
          <td class="r font-bold">
            <button
              v-if="r.after"
              type="button"
              class="num min-h-8 underline decoration-line decoration-dotted underline-offset-4"
              @click="working.open(r.after.share.id!)"
            >
              {{ percent(r.after) }}</button><span v-else>–</span
            ><span v-if="r.after?.life" class="block text-sm font-normal text-brick">{{ r.after.life }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="flicker" class="mt-2 text-dim">
      Light on the coil pulses at <span class="num">{{ Math.round(flicker) }}</span> Hz here.
    </p>
  </section>
</template>
