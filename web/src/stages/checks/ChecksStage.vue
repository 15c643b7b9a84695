<script setup lang="ts">
import { computed, ref, shallowRef, watch } from 'vue'
import { api, freshId, type Schemas } from '../../api/client'
import { useInstruments } from '../../state/useInstruments'
import { useJob } from '../../state/useJob'
import { useUnits } from '../../state/useUnits'
import Caution from '../../ui/Caution.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import { plain } from '../../ui/format'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'
import WallMap from './WallMap.vue'

/** The beam on the wall, read as a grid, before and after. */
const job = useJob()
const units = useUnits()
const instruments = useInstruments()
void instruments.refresh()
const view = shallowRef<Schemas['BeamView'] | null>(null)
const failed = ref('')
const beam = ref<'low' | 'high'>('low')
const editing = ref<string | null>(null)
const cell = ref(0)
const meterWords = ref('')
const BEAMS = [
  { key: 'low', label: 'Low beam' },
  { key: 'high', label: 'High beam' },
] as const
const SIDES = ['before', 'after'] as const
const predicted = shallowRef<{ name: string; type: string; wall: Schemas['WallView'] } | null>(null)
const COLUMNS = 9
const ROWS = 5

watch(
  [() => job.id, () => job.view?.revision],
  async () => {
    try {
      const { data } = await api.GET('/api/jobs/{id}/beam', { params: { path: { id: job.id } } })
      if (data) view.value = data
      failed.value = ''
    } catch {
      failed.value = 'Miser does not answer.'
    }
  },
  { immediate: true },
)
const walls = computed(() => SIDES.map((side) => ({ side, wall: view.value?.walls.find((w) => w.beam === beam.value && w.side === side) })))
const most = computed(() => Math.max(1, ...walls.value.map((w) => w.wall?.figures?.peak_lux ?? 0)))
const compared = computed(() => view.value?.comparisons.find((c) => c.beam === beam.value))
const entered = computed(() => job.document?.beam?.walls?.find((w) => w.id === editing.value))
const at = computed(() => `/beam/walls/${editing.value}`)
const cells = computed(() => entered.value?.cells ?? [])

function add(side: 'before' | 'after') {
  const other = job.document?.beam?.walls?.find((w) => w.beam === beam.value)
  const columns = other?.columns ?? COLUMNS
  const rows = other?.rows ?? ROWS
  const id = freshId()
  const grid = Array.from({ length: rows * columns }, (_, k) => ({ id: `r${Math.floor(k / columns)}c${k % columns}` }))
  const frame = { distance_m: other?.distance_m, width_m: other?.width_m ?? 3.2, up_m: other?.up_m ?? 0.4, down_m: other?.down_m ?? 0.8 }
  job.edit([{ op: 'add', at: '/beam/walls', value: { id, beam: beam.value, side, columns, rows, ...frame, cells: grid } }])
  editing.value = id
  cell.value = 0
}
/** A photometry file, laid on the wall of this beam; nothing of it is kept. */
async function photometry(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  if (!file) return
  predicted.value = null
  try {
    const text = await file.text()
    input.value = '' // The same file, mended, can be chosen again.
    const wall = walls.value.find((w) => w.side === 'after')?.wall ?? walls.value[0].wall
    const { data, error } = await api.POST('/api/jobs/{id}/photometry', {
      params: { path: { id: job.id } },
      body: { text, wall: wall?.id, down: Math.abs(job.view?.aim.target ?? 0) },
    })
    if (data) predicted.value = { name: file.name, ...data }
    failed.value = data ? '' : (error?.message ?? 'The file can’t be read.')
  } catch {
    failed.value = 'Miser does not answer.'
  }
}
/** One reading of the light meter into the cell in hand, then the next. */
async function take() {
  if (!instruments.light || !cells.value[cell.value]) return
  try {
    const { data } = await api.POST('/api/instruments/{id}/read', { params: { path: { id: instruments.light.id } } })
    if (data?.value === null || data?.value === undefined)
      return void (meterWords.value = `The light meter ${data?.message ?? 'does not answer'}. ${data?.remedy ?? ''}`)
    job.set(`${at.value}/cells/${cells.value[cell.value].id}/lux`, Number(data.value.toPrecision(4)))
    meterWords.value = `${plain(data.value, 1)} lx${data.simulated ? ', simulated' : ''}`
    cell.value = Math.min(cell.value + 1, cells.value.length - 1)
  } catch {
    meterWords.value = 'Miser does not answer.'
  }
}
function say(metres: number) {
  const l = units.length(metres)
  return `${plain(l.value, l.digits)} ${l.unit}`
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="text-xl">Checks: the beam on the wall</h2>
      <ChoiceRow label="Beam" :options="BEAMS" :value="beam" @pick="((beam = $event), (editing = null))" />
      <QuantityField class="ml-auto w-64" at="/beam/cutoff_m" label="Cut-off under the axis, there" unit="m" small :step="5" />
    </div>
    <Caution of="lamp_hot" class="mb-3" />
    <p v-if="failed" class="mb-3 text-brick" role="alert">{{ failed }}</p>
    <p v-if="compared" class="mb-3 border-l-4 border-brass bg-brass-soft p-3 text-lg font-semibold" data-testid="sentence">
      {{ compared.sentence }}
    </p>
    <div class="grid gap-4 min-[1000px]:grid-cols-2">
      <section v-for="w in walls" :key="w.side" :data-testid="`wall-${w.side}`">
        <h3 class="mb-1 font-semibold">{{ w.side === 'before' ? 'As it came in' : 'After the change' }}</h3>
        <button v-if="!w.wall" type="button" class="btn min-h-24 w-full justify-center border-dashed" @click="add(w.side)">
          Read this wall
        </button>
        <template v-else>
          <p v-if="w.wall.reason" class="border-2 border-dashed border-line p-4 text-dim">{{ w.wall.reason }}</p>
          <template v-else-if="w.wall.figures">
            <WallMap :wall="w.wall" :most="most" :cutoff="view!.cutoff_m" @pick="editing = w.wall!.id" />
            <dl class="mt-2 grid grid-cols-[auto_1fr] gap-x-4">
              <dt class="text-dim">peak</dt>
              <dd class="num">{{ plain(w.wall.figures.peak_lux, 1) }} lx, {{ plain(w.wall.figures.peak_cd, 0) }} cd</dd>
              <dt class="text-dim">on the wall</dt>
              <dd class="num">
                {{ plain(w.wall.figures.lumens, 1) }} ± {{ plain(w.wall.figures.lumens_sigma, 1) }} lm<template
                  v-if="w.wall.figures.relative"
                  >, relative</template
                >
              </dd>
              <dt class="text-dim">above the cut-off</dt>
              <dd class="num font-bold" :class="w.wall.figures.glaring ? 'text-brick' : ''">
                {{ plain(w.wall.figures.glare * 100, 0) }} %
              </dd>
              <dt class="text-dim">half of peak, tenth</dt>
              <dd class="num">
                {{ say(w.wall.figures.half_w) }} × {{ say(w.wall.figures.half_h) }}, {{ say(w.wall.figures.tenth_w) }} ×
                {{ say(w.wall.figures.tenth_h) }}
              </dd>
              <dt class="text-dim">balances at</dt>
              <dd class="num">{{ say(w.wall.figures.centroid_x) }} right, {{ say(w.wall.figures.centroid_y) }} up</dd>
              <template v-if="w.wall.figures.missing">
                <dt class="text-dim">not read</dt>
                <dd class="num">{{ w.wall.figures.missing }} cells, taken from their neighbours</dd>
              </template>
            </dl>
          </template>
          <a v-if="w.wall.figures" class="btn mt-2 mr-2" :href="`/api/jobs/${job.id}/wall-photometry?wall=${w.wall.id}`" download
            >as LM-63</a
          >
          <button type="button" class="btn mt-2" @click="editing = editing === w.wall.id ? null : w.wall.id">
            {{ editing === w.wall.id ? 'done' : 'enter its readings' }}
          </button>
        </template>
      </section>
    </div>
    <section class="mt-6" aria-labelledby="photometry-head">
      <h3 id="photometry-head" class="mb-2 text-lg">What a photometry file predicts</h3>
      <label class="mb-1 block text-dim" for="ies-file">IES LM-63, 1995 or 2002; aimed as on the Aim stage</label>
      <input id="ies-file" type="file" accept=".ies,.txt" class="field max-w-xl py-2" @change="photometry" />
      <div v-if="predicted?.wall.figures" class="mt-3 max-w-xl" data-testid="predicted">
        <WallMap :wall="predicted.wall" :most="Math.max(most, predicted.wall.figures.peak_lux)" :cutoff="view?.cutoff_m ?? 0" />
        <p class="mt-1">
          {{ predicted.name }}: peak <span class="num">{{ plain(predicted.wall.figures.peak_lux, 1) }}</span> lx,
          <span class="num">{{ plain(predicted.wall.figures.lumens, 1) }}</span> lm on this wall, above the cut-off
          <span class="num">{{ plain(predicted.wall.figures.glare * 100, 0) }}</span> %.
        </p>
      </div>
    </section>
    <section v-if="entered" class="mt-6" aria-labelledby="cells-head" data-testid="cells">
      <h3 id="cells-head" class="mb-2 text-lg">Readings, {{ entered.side }}: same spot, same height, marked on the wall</h3>
      <div class="mb-3 grid gap-3 sm:grid-cols-4">
        <QuantityField :at="`${at}/distance_m`" label="Distance to the wall" unit="m" :step="0.1" />
        <QuantityField :at="`${at}/width_m`" label="Width of the grid" unit="m" :step="0.1" />
        <QuantityField :at="`${at}/up_m`" label="Up from the axis" unit="m" small :step="10" />
        <QuantityField :at="`${at}/down_m`" label="Down from the axis" unit="m" small :step="10" />
      </div>
      <YesNo :at="`${at}/phone`" label="read with a telephone: relative only" />
      <div class="my-3 overflow-x-auto">
        <div class="grid min-w-[640px] gap-1" :style="{ gridTemplateColumns: `repeat(${entered.columns ?? COLUMNS}, minmax(0, 1fr))` }">
          <QuantityField
            v-for="c in cells"
            :key="c.id"
            :at="`${at}/cells/${c.id}/lux`"
            :label="`Lux, ${c.id}`"
            unit=""
            hide-label
            :step="1"
          />
        </div>
      </div>
      <div class="flex flex-wrap items-center gap-3">
        <button v-if="instruments.light" type="button" class="btn btn-main" @click="take">
          Take {{ cells[cell]?.id }} with the light meter
        </button>
        <span role="status">{{ meterWords }}</span>
        <button type="button" class="btn ml-auto" @click="(job.edit([{ op: 'remove', at }]), (editing = null))">Remove this wall</button>
      </div>
    </section>
  </div>
</template>
