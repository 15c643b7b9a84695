<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import Caution from '../../ui/Caution.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { focusOn } from '../../ui/focusOn'
import QuantityField from '../../ui/QuantityField.vue'

/** Several loads at once, on the machine: the clamp on the battery lead, one switch after another. */
const props = defineProps<{ sums: Schemas['SumsView'] }>()
const job = useJob()
const rows = computed(() => job.document?.sums ?? [])
const said = computed(() => Object.fromEntries(props.sums.readings.map((r) => [r.id, r])))
const names = computed(() => Object.fromEntries(props.sums.things.map((t) => [t.key, t.name])))

function take(on: string[]) {
  const id = freshId()
  job.edit([{ op: 'add', at: '/sums', value: { id, on, at: new Date().toISOString() } }])
  focusOn(`/sums/${id}/amps`)
}
function toggle(row: Schemas['job_sum'], key: string) {
  const on = row.on ?? []
  job.edit([{ op: 'set', at: `/sums/${row.id}/on`, value: on.includes(key) ? on.filter((k) => k !== key) : [...on, key] }])
}
</script>

<template>
  <div class="max-w-[1000px]">
    <p class="mb-3 text-lg">
      Nobody takes a fuel pump off to read it. Clamp on the battery’s lead, engine off, and switch one thing on after another: each reading
      is the sum of what is on, and Miser works the single loads out of them.
    </p>
    <Caution of="battery_acid" class="mb-3" />
    <Caution of="meter_jack" class="mb-3" />
    <ol class="mb-5 border-t border-line" aria-label="One switch after another">
      <li
        v-for="s in sums.steps"
        :key="s.key"
        class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2"
        :data-step="s.key"
      >
        <span class="min-w-0 flex-1">
          <span class="block text-lg font-semibold">{{ s.label }}</span>
          <span class="block text-sm text-dim"
            >{{ s.names.join(', ') }}<template v-if="s.tells">; {{ s.tells }}</template></span
          >
        </span>
        <span class="text-sm text-dim"
          >expect <FigureValue :figure="s.expect" name="Expected" fine sigma class="text-base text-ink"
        /></span>
        <button type="button" class="btn btn-main" :aria-label="`Read: ${s.label}`" @click="take(s.on)">Read it</button>
      </li>
    </ol>
    <ul v-if="rows.length" class="mb-5 border-t border-line" aria-label="Read together">
      <li v-for="row in rows" :key="row.id" class="border-b border-line py-3" :data-sum="row.id">
        <div class="flex flex-wrap items-end gap-3">
          <QuantityField :at="`/sums/${row.id}/amps`" label="Amps, together" unit="A" class="w-36" big />
          <QuantityField :at="`/sums/${row.id}/volts`" label="Volts at the battery" unit="V" class="w-36" big />
          <p class="min-w-0 flex-1 pb-2">
            <span v-if="said[row.id]?.adds" class="block">
              <FigureValue :figure="said[row.id].adds!" name="More than before" fine sigma sign /> more than the reading before it
            </span>
            <span v-if="said[row.id]?.problem" class="block text-brass">{{ said[row.id].problem }}</span>
            <span v-if="said[row.id]?.strange" class="block text-brick">{{ said[row.id].strange }}</span>
          </p>
          <button
            type="button"
            class="btn btn-bare"
            aria-label="Take this reading away"
            @click="job.edit([{ op: 'remove', at: `/sums/${row.id}` }])"
          >
            ✕
          </button>
        </div>
        <details class="mt-1">
          <summary class="min-h-11 cursor-pointer py-2 text-dim">
            on: {{ (row.on ?? []).map((k) => names[k] ?? 'something gone').join(', ') || 'nothing' }}
          </summary>
          <div class="flex flex-wrap gap-1">
            <button
              v-for="t in sums.things"
              :key="t.key"
              type="button"
              class="btn"
              :aria-pressed="(row.on ?? []).includes(t.key)"
              @click="toggle(row, t.key)"
            >
              {{ t.name }}
            </button>
          </div>
        </details>
      </li>
    </ul>
    <div v-if="sums.found.length" class="overflow-x-auto">
      <table class="sheet w-full" data-testid="found">
        <thead>
          <tr>
            <th>worked out of them</th>
            <th class="r">believed before</th>
            <th class="r">now</th>
            <th><span class="sr-only">told apart</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="f in sums.found" :key="f.key">
            <td>{{ f.name }}</td>
            <td class="r text-dim"><FigureValue :figure="f.before" :name="`${f.name}, believed`" fine sigma /></td>
            <td class="r font-bold"><FigureValue :figure="f.now" :name="`${f.name}, now`" fine sigma /></td>
            <td class="text-sm text-dim">{{ f.apart ? '' : 'not told apart: only the sum is known well' }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </div>
</template>
