<script setup lang="ts">
import { computed } from 'vue'
import { useRail } from '../../rail/useRail'
import { useWorking } from '../../state/useWorking'

const rail = useRail()
const working = useWorking()
const rows = computed(() => {
  const before = rail.line('before')?.light ?? []
  const after = rail.line('after')?.light ?? []
  const names = new Map([...before, ...after].map((l) => [l.load, l.name]))
  return [...names.keys()].map((load) => ({
    load,
    before: before.find((l) => l.load === load),
    after: after.find((l) => l.load === load),
  }))
})
const flicker = computed(() => rail.line('after')?.flicker_hz)
type Lit = (typeof rows.value)[number]['before']
const percent = (lit: Lit) => {
  const share = lit?.share.value
  return share === undefined || share === null ? '–' : share > 9.99 ? 'over 999 %' : `${Math.round(share * 100)} %`
}
/** Only a life cut short is worth saying. */
const life = (lit: Lit) => (lit?.life && lit.life < 0.7 ? `life × ${lit.life < 0.01 ? '0.01 or less' : lit.life.toPrecision(1)}` : '')
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
            ><span v-if="life(r.before)" class="block text-sm text-brick">{{ life(r.before) }}</span>
          </td>
          <td class="r font-bold">
            <button
              v-if="r.after"
              type="button"
              class="num min-h-8 underline decoration-line decoration-dotted underline-offset-4"
              @click="working.open(r.after.share.id!)"
            >
              {{ percent(r.after) }}</button><span v-else>–</span
            ><span v-if="life(r.after)" class="block text-sm font-normal text-brick">{{ life(r.after) }}</span>
          </td>
        </tr>
      </tbody>
    </table>
    <p v-if="flicker" class="mt-2 text-dim">
      Light on the coil pulses at <span class="num">{{ Math.round(flicker) }}</span> Hz here.
    </p>
  </section>
</template>
