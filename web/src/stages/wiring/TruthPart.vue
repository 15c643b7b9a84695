<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, freshId } from '../../api/client'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import ToneNote from '../../ui/ToneNote.vue'
import { tapped, type Wanted } from './turned'

/** What is wanted in every state of the switches beside what the wiring does. Touch a cell to want it otherwise. */
const emit = defineEmits<{ show: [state: string[]] }>()
const job = useJob()
const wrongOnly = ref(false)
const { data: table, failed } = useFetched([() => job.id, () => job.view?.revision], () =>
  job.id ? api.GET('/api/jobs/{id}/wiring/table', { params: { path: { id: job.id } } }) : null,
)
const WORDS: Record<string, string> = { off: '–', on: 'on', dim: 'dim', flash: 'flash', any: 'any', ghost: 'ghost', unknown: '?' }
const states = computed(() =>
  (table.value?.states ?? [])
    .map((s, i) => ({ ...s, i }))
    .filter((s) => !wrongOnly.value || table.value!.rows.some((r) => !r.cells[s.i].right)),
)

/** What may be wanted, one after the other; then as the rule has it again. */
function tap(load: string, state: string, wanted: Wanted) {
  const said = job.document?.wiring?.wanted?.find((w) => w.load_id === load && w.state === state)
  const next = tapped(said?.want, wanted)
  if (!said) return job.edit([{ op: 'add', at: '/wiring/wanted', value: { id: freshId(), load_id: load, state, want: next } }])
  return job.edit([
    next ? { op: 'set', at: `/wiring/wanted/${said.id}/want`, value: next } : { op: 'remove', at: `/wiring/wanted/${said.id}` },
  ])
}
</script>

<template>
  <section aria-labelledby="truth-head" data-testid="truth">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h3 id="truth-head" class="text-lg">Every switch position</h3>
      <label class="flex min-h-11 items-center gap-2"
        ><input v-model="wrongOnly" type="checkbox" class="h-5 w-5" /> only where it differs</label
      >
    </div>
    <ToneNote v-if="failed" tone="bad" role="alert">{{ failed }}</ToneNote>
    <p class="mb-2 text-dim">Above what is wanted, below what the wiring does, solved. Touch a cell to want it otherwise there.</p>
    <div v-if="table" class="max-h-[70vh] overflow-auto border border-line">
      <table class="sheet w-full">
        <thead class="sticky top-0 bg-paper">
          <tr>
            <th>switches on</th>
            <th v-for="r in table.rows" :key="r.load">{{ r.name }}</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="s in states" :key="s.key" :data-state="s.key">
            <td>
              <button
                type="button"
                class="min-h-11 text-left underline underline-offset-4"
                @click="emit('show', s.key ? s.key.split('+') : [])"
              >
                {{ s.words }}
              </button>
            </td>
            <td v-for="r in table.rows" :key="r.load" :class="r.cells[s.i].right ? '' : 'bg-brick-soft'">
              <button
                type="button"
                class="min-h-11 w-full text-left"
                :disabled="job.readonly"
                :data-cell="`${r.load} ${s.key}`"
                :aria-label="`${r.name}, ${s.words}: wanted ${r.cells[s.i].wanted}, is ${r.cells[s.i].seen}`"
                @click="tap(r.load, s.key, r.cells[s.i].wanted)"
              >
                <span :class="r.cells[s.i].said ? 'font-bold text-brass' : ''">{{ WORDS[r.cells[s.i].wanted] }}</span>
                <span class="block text-sm" :class="r.cells[s.i].right ? 'text-dim' : 'font-bold text-brick'">{{
                  WORDS[r.cells[s.i].seen]
                }}</span>
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
