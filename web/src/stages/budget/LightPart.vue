<script setup lang="ts">
import { computed } from 'vue'
import { useRail } from '../../rail/useRail'

const rail = useRail()
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
const percent = (share: number | undefined) => (share === undefined ? '–' : share > 9.99 ? 'over 999 %' : `${Math.round(share * 100)} %`)
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
          <td class="r num">{{ percent(r.before?.share) }}</td>
          <td class="r num font-bold">{{ percent(r.after?.share) }}</td>
        </tr>
      </tbody>
    </table>
    <p v-if="flicker" class="mt-2 text-dim">
      Light on the coil pulses at <span class="num">{{ Math.round(flicker) }}</span> Hz here.
    </p>
  </section>
</template>
