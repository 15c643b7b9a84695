<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import FigureValue from '../../ui/FigureValue.vue'
import Term from '../../ui/Term.vue'
import { useReference } from '../../state/useReference'
import { plain, toneOf } from '../../ui/format'

const props = defineProps<{ view: Schemas['BudgetView'] }>()
const job = useJob()
const reference = useReference()
const rows = computed(() =>
  props.view.scenarios.flatMap((s) =>
    props.view.circuits.flatMap((c) => {
      const of = (side: string) => s.lines.find((l) => l.side === side && l.circuit === c.id)
      const [before, lamps, after] = [of('before'), of('lamps'), of('after')]
      return before && lamps && after ? [{ scenario: s, circuit: c, before, lamps, after }] : []
    }),
  ),
)
const STEPS = ['before', 'lamps', 'after'] as const
type Row = (typeof rows.value)[number]
const looked = (r: Row) => job.rail?.scenario === r.scenario.id && job.rail.circuit === r.circuit.id
const told = (r: Row) => r.scenario.engine === 'running' && (r.after.battery || r.before.burns?.value || r.after.burns?.value)
</script>

<template>
  <section aria-labelledby="kept-head">
    <h3 id="kept-head" class="mb-1 font-semibold text-dim">What is <Term of="keeps">kept</Term>, amps</h3>
    <div class="overflow-x-auto">
      <table class="sheet w-full" data-testid="scenarios">
        <thead>
          <tr>
            <th>scenario</th>
            <th v-for="step in reference.tables?.steps" :key="step" class="r">{{ step }}</th>
            <th class="r"><Term of="break-even">break-even</Term></th>
          </tr>
        </thead>
        <tbody>
          <template v-for="r in rows" :key="r.scenario.id + r.circuit.id">
            <tr :class="looked(r) ? 'bg-shade' : ''">
              <td>
                <button
                  type="button"
                  class="min-h-11 text-left underline decoration-line underline-offset-4 hover:decoration-brass"
                  :aria-pressed="job.rail?.scenario === r.scenario.id"
                  @click="job.look({ scenario: r.scenario.id, circuit: r.circuit.id })"
                >
                  {{ r.scenario.name }}<span v-if="view.circuits.length > 1" class="block text-sm text-dim">{{ r.circuit.name }}</span>
                  <span v-if="r.scenario.engine === 'running'" class="block text-sm text-dim"
                    ><span class="num">{{ r.scenario.rpm === null ? '?' : plain(r.scenario.rpm, 0) }}</span> rpm</span
                  >
                </button>
              </td>
              <template v-if="r.scenario.engine === 'running'">
                <td class="r" :class="toneOf(r.before.verdict)"><FigureValue :figure="r.before.keeps" name="Kept as it came in" bare /></td>
                <td class="r" :class="toneOf(r.lamps.verdict)"><FigureValue :figure="r.lamps.keeps" name="Kept, lamps changed" bare /></td>
                <td class="r font-bold" :class="toneOf(r.after.verdict)" :title="reference.verdict(r.after.verdict)">
                  <FigureValue :figure="r.after.keeps" name="Kept after" sigma bare />
                </td>
                <td class="r">
                  <FigureValue v-if="r.after.break_even.value !== null" :figure="r.after.break_even" name="Break-even after" bare />
                  <span v-else class="text-dim" :title="r.after.break_even.reason ?? ''">none</span>
                </td>
              </template>
              <template v-else>
                <td v-for="name in STEPS" :key="name" class="r" :class="name === 'after' ? 'font-bold' : ''">
                  <FigureValue
                    v-if="r[name].lasts.value !== null"
                    :figure="r[name].lasts"
                    :name="`Battery lasts, ${reference.tables?.steps[name]}`"
                  />
                  <span v-else class="text-dim" :title="r[name].lasts.reason ?? ''">–</span>
                </td>
                <td class="r text-sm text-dim">battery lasts</td>
              </template>
            </tr>
            <tr v-if="told(r)" :class="looked(r) ? 'bg-shade' : ''">
              <td colspan="5" class="pt-0! text-sm text-dim">
                <span v-if="r.scenario.engine === 'running' && r.after.battery" class="mr-4">{{ r.after.battery }}</span>
                <span v-if="r.before.burns?.value || r.after.burns?.value" class="whitespace-nowrap"
                  >regulator burns <FigureValue :figure="r.before.burns!" name="Burnt as it came in" /> →
                  <FigureValue :figure="r.after.burns!" name="Burnt after"
                /></span>
              </td>
            </tr>
          </template>
        </tbody>
      </table>
    </div>
    <p v-if="rows.length === 0" class="p-3 text-dim">No scenario. Add one below.</p>
  </section>
</template>
