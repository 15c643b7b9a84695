<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import Caution from '../../ui/Caution.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import { minutes, money, plain } from '../../ui/format'

/** Every remedy tried in all states, side by side. */
const props = defineProps<{ view: Schemas['SignalsView'] }>()
const job = useJob()
const reference = useReference()
const all = ref(false)
const works = computed(() => props.view.cures.filter((c) => c.works))
const shown = computed(() => {
  if (all.value) return props.view.cures
  const first = works.value.slice(0, 3)
  const other = works.value.find((c) => c.label === props.view.beside)
  return other && !first.includes(other) ? [...first, other] : first
})
const chosen = computed(() => props.view.chosen.join('+'))
const hot = computed(() => shown.value.some((c) => c.hot))
function key(cure: Schemas['CureView']) {
  return cure.keys.join('+')
}
</script>

<template>
  <section aria-labelledby="cures-head" data-testid="cures">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h3 id="cures-head" class="text-lg">Remedies, each tried in every state</h3>
      <label class="ml-auto flex items-center gap-2 text-dim"
        >way
        <select class="field w-auto" :value="view.school" @change="job.set('/signals/school', ($event.target as HTMLSelectElement).value)">
          <option v-for="s in reference.tables?.cure_schools ?? []" :key="s.key" :value="s.key">{{ s.label }}</option>
        </select></label
      >
    </div>
    <EmptyBox v-if="works.length === 0" bad>No remedy known here works in every state.</EmptyBox>
    <Caution v-if="hot" of="resistor_hot" class="mb-2" />
    <div v-if="shown.length" class="overflow-x-auto">
      <table class="sheet w-full">
        <thead>
          <tr>
            <th>remedy</th>
            <th class="r">a minute</th>
            <th class="r">spends</th>
            <th class="r">usual price</th>
            <th class="r">time</th>
            <th class="r">cuts</th>
            <th><span class="sr-only">choose</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in shown" :key="key(c)" :class="chosen === key(c) ? 'bg-shade' : ''" :data-cure="key(c)">
            <td>
              <span class="font-semibold">{{ c.label }}</span>
              <span v-if="c.label === view.beside" class="text-sm text-dim"> (the best of the other way)</span>
              <span v-if="!c.works" class="block text-brick">Does not work: {{ c.why[0] }}</span>
              <span v-if="c.loses_warning" class="block text-sm text-brick">No more fast flash when a lamp is out: tell the owner.</span>
              <span v-for="n in c.notes" :key="n" class="block text-sm text-dim">{{ n }}</span>
            </td>
            <td class="r num">{{ c.rate === null ? '–' : plain(c.rate, 0) }}</td>
            <td class="r whitespace-nowrap">
              <span class="num">{{ plain(c.amps, 2) }}</span> <span class="unit">A</span>
              <span v-if="c.surface_c" class="block text-sm text-brick"
                ><span class="num">{{ plain(c.watts, 0) }}</span> W lit, about <span class="num">{{ plain(c.surface_c, 0) }}</span> °C</span
              >
            </td>
            <td class="r num">{{ money(c.cents) }}</td>
            <td class="r whitespace-nowrap">
              <span class="num">{{ minutes(c.minutes) }}</span> <span class="unit">min</span>
            </td>
            <td class="r num">{{ c.cuts }}</td>
            <td class="r">
              <button type="button" class="btn" :aria-pressed="chosen === key(c)" @click="job.act('cure', chosen === key(c) ? '' : key(c))">
                {{ chosen === key(c) ? 'chosen' : 'choose' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <button v-if="view.cures.length > shown.length || all" type="button" class="btn btn-bare mt-1" @click="all = !all">
      {{ all ? 'only what works' : `all ${view.cures.length}, also those that fail` }}
    </button>
    <div v-if="view.pins" class="mt-3">
      <h4 class="font-semibold">From the old plug to the new flasher</h4>
      <p v-for="p in view.pins.problems" :key="p" class="text-brick">{{ p }}</p>
      <table class="sheet">
        <thead>
          <tr>
            <th>terminal</th>
            <th>what</th>
            <th class="r">old pin</th>
            <th class="r">new pin</th>
            <th>do</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in view.pins.rows" :key="r.terminal">
            <td class="num font-bold">{{ r.terminal }}</td>
            <td>{{ r.meaning }}</td>
            <td class="r num">{{ r.old_pin ?? '–' }}</td>
            <td class="r num">{{ r.new_pin ?? '–' }}</td>
            <td>{{ r.note ?? 'fits' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
