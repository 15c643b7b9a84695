<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import Caution from '../../ui/Caution.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { plain } from '../../ui/format'
import QuantityField from '../../ui/QuantityField.vue'

/** Guided points for what the charging system earns. */
const props = defineProps<{ points: Schemas['ReadingsView']['points'] }>()
const job = useJob()
const circuits = computed(() =>
  (job.document?.circuits ?? []).map((c) => ({
    id: c.id,
    name: c.name ?? c.id,
    points: c.alternator?.points ?? [],
    how: props.points[c.id]?.how ?? [],
    steps: props.points[c.id]?.steps ?? [],
  })),
)
function take(circuit: string, rpm: number) {
  job.edit([{ op: 'add', at: `/circuits/${circuit}/alternator/points`, value: { id: freshId(), rpm, stator: 'hot' } }])
}
function remove(circuit: string, point: string) {
  job.edit([{ op: 'remove', at: `/circuits/${circuit}/alternator/points/${point}` }])
}
</script>

<template>
  <section class="max-w-5xl" aria-label="What the charging system earns" data-testid="charging">
    <Caution of="running_engine" class="mb-3" />
    <div v-for="c in circuits" :key="c.id" class="mb-6">
      <h3 class="mb-2 text-lg">{{ c.name }}</h3>
      <ol class="mb-4 list-decimal space-y-1 pl-6 text-lg">
        <li v-for="h in c.how" :key="h">{{ h }}</li>
      </ol>
      <EmptyBox v-if="c.steps.length === 0">Idle and cruising speed say where to measure: enter them at Intake.</EmptyBox>
      <table v-else class="sheet w-full">
        <thead>
          <tr>
            <th class="r">rpm</th>
            <th class="r">expect</th>
            <th>switch on</th>
            <th><span class="sr-only">take</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in c.steps" :key="s.rpm">
            <td class="r num text-lg font-bold">{{ plain(s.rpm, 0) }}</td>
            <td class="r"><FigureValue :figure="s.expect_a" name="Expected output" sigma /></td>
            <td>
              {{ s.switch_on.length ? s.switch_on.join(', ') : 'nothing beside the engine’s own' }}
              <span class="block text-sm" :class="s.enough === false ? 'text-brick' : 'text-dim'">{{ s.words }}</span>
            </td>
            <td class="r">
              <span v-if="s.taken" class="text-moss">read</span>
              <button v-else type="button" class="btn" @click="take(c.id, s.rpm)">read it</button>
            </td>
          </tr>
        </tbody>
      </table>
      <div v-if="c.points.length" class="mt-3 grid gap-2">
        <div v-for="p in c.points" :key="p.id" class="grid max-w-2xl grid-cols-[1fr_1fr_1fr_auto] items-end gap-3">
          <QuantityField :at="`/circuits/${c.id}/alternator/points/${p.id}/rpm`" label="Engine speed" unit="rpm" :step="50" />
          <QuantityField :at="`/circuits/${c.id}/alternator/points/${p.id}/amps`" label="Regulator output" unit="A" />
          <QuantityField :at="`/circuits/${c.id}/alternator/points/${p.id}/volts`" label="Volts there" unit="V" />
          <button type="button" class="btn btn-bare" aria-label="Remove this point" @click="remove(c.id, p.id)">✕</button>
        </div>
      </div>
    </div>
  </section>
</template>
