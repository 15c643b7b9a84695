<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Schemas, ofJob } from '../../api/client'
import { useInstruments } from '../../state/useInstruments'
import { useJob } from '../../state/useJob'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'
import { luxText, MOST_FIELDS } from './frame'
import { useWallRun } from './useWallRun'

/** One wall's readings: by hand, from a table, or by the light meter, mark after mark. */
const props = defineProps<{ wall: Schemas['job_wall']; /** The cut-off there, from the axis, up. */ line?: number | null }>()
const mark = defineModel<string>('mark', { required: true })
const emit = defineEmits<{ remove: [] }>()
const job = useJob()
const instruments = useInstruments()
void instruments.refresh()
const at = computed(() => `/beam/walls/${props.wall.id}`)
const columns = computed(() => props.wall.columns ?? 0)
const cells = computed(() => props.wall.cells ?? [])
const pasted = ref('')
const said = ref('')
const pace = ref(1)

const { run, lux, failed, adrift, start, act, leave } = useWallRun((id, read) => put(id, read))
watch(
  () => run.value?.mark,
  (next) => {
    if (next) mark.value = next
  },
)
const simulated = computed(() => run.value?.simulated ?? instruments.light?.simulated ?? false)

/** Marks given a cell here, saved or on their way. */
const given = new Set<string>()
/** A mark that has no cell yet gets one. */
function put(id: string, read: number) {
  const there = given.has(id) || cells.value.some((c) => c.id === id)
  given.add(id)
  job.edit([
    there
      ? { op: 'set', at: `${at.value}/cells/${id}/lux`, value: read }
      : { op: 'add', at: `${at.value}/cells`, value: { id, lux: read } },
  ])
}
function begin() {
  if (!instruments.light) return
  void start({
    job: job.id,
    wall: props.wall.id,
    light: instruments.light.id,
    from: mark.value,
    every_s: pace.value > 1 ? 0.05 : 0.2,
    pace: pace.value,
  })
}
async function take() {
  const done = await job.send((revision) =>
    api.POST('/api/jobs/{id}/wall-table', {
      params: { path: { id: job.id } },
      body: { text: pasted.value, wall: props.wall.id, revision },
    }),
  )
  said.value = done ? 'Taken.' : job.message
  if (done) pasted.value = ''
}
async function file(event: Event) {
  const input = event.target as HTMLInputElement
  pasted.value = (await input.files?.[0]?.text()) ?? ''
  input.value = ''
}
/** The one more row is kept after the last. */
const extra = computed(() => props.wall.extra_row_m !== undefined)
function addRow() {
  const ids = Array.from({ length: columns.value }, (_, i) => `r${props.wall.rows}c${i}`).filter(
    (id) => !cells.value.some((c) => c.id === id),
  )
  job.edit([
    { op: 'set', at: `${at.value}/extra_row_m`, value: Number((-(props.line ?? 0)).toFixed(3)) },
    ...(columns.value > MOST_FIELDS ? [] : ids.map((id) => ({ op: 'add' as const, at: `${at.value}/cells`, value: { id } }))),
  ])
}
function dropRow() {
  const gone = cells.value.filter((c) => c.id.startsWith(`r${props.wall.rows}c`))
  job.edit([
    ...gone.map((c) => ({ op: 'remove' as const, at: `${at.value}/cells/${c.id}` })),
    { op: 'unset' as const, at: `${at.value}/extra_row_m` },
  ])
}
function place(id: string) {
  const [row, column] = id.slice(1).split('c').map(Number)
  if (row === props.wall.rows) return `the one more row, mark ${column + 1}`
  return `row ${row + 1}, mark ${column + 1}`
}
</script>

<template>
  <section class="mt-6" aria-labelledby="cells-head" data-testid="cells">
    <h3 id="cells-head" class="mb-2 text-lg">
      Readings, {{ wall.side === 'before' ? 'as it came in' : 'after the change' }}: same spot, same height, marks on the wall
    </h3>
    <div class="mb-3 grid gap-3 sm:grid-cols-4">
      <QuantityField :at="`${at}/distance_m`" label="Distance to the wall" unit="m" :step="0.1" />
      <QuantityField :at="`${at}/width_m`" label="Width of the grid" unit="m" :step="0.1" />
      <QuantityField :at="`${at}/up_m`" label="Up from the axis" unit="m" small :step="10" />
      <QuantityField :at="`${at}/down_m`" label="Down from the axis" unit="m" small :step="10" />
    </div>
    <YesNo :at="`${at}/phone`" label="read with a telephone: relative only" />

    <div v-if="run" class="my-3 border-t-4 border-brass bg-leaf p-4" data-testid="wall-run">
      <p v-if="run.simulated" class="mb-2 font-bold text-brick">Simulated: no real wall is measured.</p>
      <p v-if="run.trouble" class="mb-2 text-brick" role="alert">{{ run.trouble.text }} {{ run.trouble.remedy }} What was read is kept.</p>
      <p v-else-if="adrift" class="mb-2 text-brick" role="alert">The line to Miser broke; it is taken up again by itself.</p>
      <div class="flex flex-wrap items-end gap-x-8 gap-y-2">
        <p class="leading-none">
          <span class="num text-6xl font-bold">{{ lux === null ? '–' : luxText(lux) }}</span> <span class="unit text-3xl">lx</span>
        </p>
        <p class="text-2xl" role="status">
          <template v-if="run.mark">
            Hold it at <b>{{ place(run.mark) }}</b>, still. <span class="text-dim">{{ run.marks_left }} to go.</span>
          </template>
          <b v-else class="text-moss">Every mark is read.</b>
        </p>
      </div>
      <div class="mt-3 flex flex-wrap gap-2">
        <template v-if="run.mark">
          <button v-if="run.trouble" type="button" class="btn btn-main min-h-14" @click="act('go_on')">Go on</button>
          <button v-else type="button" class="btn btn-main min-h-14" @click="act('take')">Take it now</button>
          <button type="button" class="btn min-h-14" @click="act('back')">Back one mark</button>
        </template>
        <button type="button" class="btn min-h-14" @click="leave">{{ run.mark ? 'Stop here' : 'Done' }}</button>
      </div>
    </div>
    <div v-else-if="instruments.light" class="my-3 flex flex-wrap items-center gap-3">
      <button type="button" class="btn btn-main min-h-14" @click="begin">Read it with the light meter, from {{ place(mark) }}</button>
      <label v-if="simulated" class="flex items-center gap-2 text-sm text-dim">
        simulated bench, its time runs
        <select v-model.number="pace" class="field w-auto">
          <option :value="1">as ours</option>
          <option :value="20">20 times</option>
        </select>
      </label>
      <span v-if="failed" class="text-brick" role="alert">{{ failed }}</span>
    </div>

    <div v-if="columns <= MOST_FIELDS" class="my-3 overflow-x-auto">
      <!-- Three digits stay in sight in every field; a narrow window scrolls. -->
      <div
        class="grid min-w-[640px] gap-1"
        :style="{ gridTemplateColumns: `repeat(${columns}, minmax(0, 1fr))`, minWidth: `${columns * 4}rem` }"
      >
        <QuantityField
          v-for="c in cells"
          :key="c.id"
          :at="`${at}/cells/${c.id}/lux`"
          :label="`Lux, ${place(c.id)}`"
          unit=""
          hide-label
          :step="1"
        />
      </div>
    </div>
    <p v-else class="my-3 text-dim">
      {{ wall.columns }} by {{ wall.rows }} marks: read them with the light meter, or paste a table. Touch a mark on the map to correct it.
    </p>
    <div class="mb-3 flex flex-wrap items-end gap-3">
      <template v-if="extra">
        <QuantityField :at="`${at}/extra_row_m`" label="One more row, under the axis" unit="m" small :step="10" class="w-64" />
        <button type="button" class="btn" @click="dropRow">Without it</button>
      </template>
      <button v-else type="button" class="btn" @click="addRow">One more row of marks, at the cut-off</button>
    </div>
    <div v-if="columns > MOST_FIELDS && cells.some((c) => c.id === mark)" class="mb-3 max-w-xs">
      <QuantityField :key="mark" :at="`${at}/cells/${mark}/lux`" :label="`Lux at ${place(mark)}`" unit="lx" :step="1" />
    </div>

    <details class="mb-3">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">From a table</summary>
      <label for="wall-table" class="block text-dim">Lux, a line a row from the top, a column a mark; empty or – where not read</label>
      <textarea id="wall-table" v-model="pasted" class="field num mb-2 min-h-32" rows="5" spellcheck="false" />
      <div class="flex flex-wrap items-center gap-3">
        <button type="button" class="btn" :disabled="pasted.trim() === ''" @click="take">Take these in</button>
        <label class="btn">
          From a file
          <input type="file" accept=".csv,.tsv,.txt" class="sr-only" @change="file" />
        </label>
        <a class="btn" :href="ofJob(job.id, 'wall-table', { wall: wall.id })" download>As CSV</a>
        <span role="status">{{ said }}</span>
      </div>
    </details>
    <button type="button" class="btn" @click="emit('remove')">Remove this wall</button>
  </section>
</template>
