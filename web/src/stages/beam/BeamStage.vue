<script setup lang="ts">
import { computed, ref } from 'vue'
import { freshId, ofJob } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import { useUnits } from '../../state/useUnits'
import Caution from '../../ui/Caution.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import QuantityField from '../../ui/QuantityField.vue'
import ToneNote from '../../ui/ToneNote.vue'
import DifferenceMap from './DifferenceMap.vue'
import { MOST_FIELDS } from './frame'
import PicturesPart from './PicturesPart.vue'
import PredictedPart from './PredictedPart.vue'
import WallCuts from './WallCuts.vue'
import WallEntry from './WallEntry.vue'
import WallFigureList from './WallFigureList.vue'
import WallMap from './WallMap.vue'

/** The beam on the wall, read as a grid, before and after. */
const job = useJob()
const units = useUnits()
const reference = useReference()
const { view, failed } = useStageView('beam')
const beam = ref<'low' | 'high'>('low')
const look = ref<'beside' | 'difference'>('beside')
const editing = ref<string | null>(null)
const mark = ref('r0c0')
const BEAMS = [
  { key: 'low', label: 'Low beam' },
  { key: 'high', label: 'High beam' },
] as const
const LOOKS = [
  { key: 'beside', label: 'Side by side' },
  { key: 'difference', label: 'Difference' },
] as const
const SIDES = ['before', 'after'] as const
const grids = computed(() => (reference.tables?.wall_grids ?? []).map((g, key) => ({ ...g, key, label: `${g.columns} × ${g.rows}` })))
const grid = ref(0)

const walls = computed(() => SIDES.map((side) => ({ side, wall: view.value?.walls.find((w) => w.beam === beam.value && w.side === side) })))
const read = computed(() => walls.value.flatMap((w) => (w.wall?.figures ? [w.wall] : [])))
const most = computed(() => Math.max(1, ...read.value.map((w) => w.figures!.peak_lux)))
/** Where the cut-off lies on the wall read last. */
const cutoff = computed(() => read.value.at(-1)?.line_m ?? null)
const compared = computed(() => view.value?.comparisons.find((c) => c.beam === beam.value))
const entered = computed(() => job.document?.beam?.walls?.find((w) => w.id === editing.value))

function add(side: 'before' | 'after') {
  const other = job.document?.beam?.walls?.find((w) => w.beam === beam.value)
  const { columns, rows } = other ? { columns: other.columns!, rows: other.rows! } : grids.value[grid.value]
  const id = freshId()
  // A field a mark, where there are fields; a large grid gets its cells as they are read.
  const cells =
    columns > MOST_FIELDS ? [] : Array.from({ length: rows * columns }, (_, k) => ({ id: `r${Math.floor(k / columns)}c${k % columns}` }))
  // The other beam falls on the same wall.
  const near = other ?? job.document?.beam?.walls?.at(-1)
  const place = near ?? reference.tables!.usual_wall
  const frame = { distance_m: near?.distance_m, width_m: place.width_m, up_m: place.up_m, down_m: place.down_m }
  job.edit([{ op: 'add', at: '/beam/walls', value: { id, beam: beam.value, side, columns, rows, ...frame, cells } }])
  edit(id)
}
function edit(id: string | null) {
  editing.value = id
  mark.value = 'r0c0'
}
function pick(id: string, cell: string) {
  editing.value = id
  mark.value = cell
}
function remove() {
  job.edit([{ op: 'remove', at: `/beam/walls/${editing.value}` }])
  edit(null)
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="text-xl">The beam on the wall</h2>
      <ChoiceRow label="Beam" :options="BEAMS" :value="beam" @pick="((beam = $event), edit(null))" />
      <ChoiceRow v-if="compared?.difference" label="Look at" :options="LOOKS" :value="look" @pick="look = $event" />
      <QuantityField
        v-if="view && beam === 'low'"
        class="ml-auto w-64"
        at="/beam/cutoff_m"
        :label="`Cut-off under the axis, at ${units.say(view.cutoff_distance_m)}`"
        unit="m"
        small
        :step="5"
        :placeholder="units.settingText(-view.cutoff_m, 'm')"
        :help="view.cutoff_assumed ? 'empty: where the rule of aim wants it ◇' : undefined"
      />
    </div>
    <Caution of="lamp_hot" class="mb-3" />
    <FailNote :text="failed" />
    <ToneNote v-if="compared" tone="doubt" class="mb-3 text-lg font-semibold" data-testid="sentence">{{ compared.sentence }}</ToneNote>
    <DifferenceMap
      v-if="look === 'difference' && compared?.difference"
      :difference="compared.difference"
      :cutoff="cutoff"
      class="max-w-4xl"
    />
    <div class="grid gap-4 min-[1000px]:grid-cols-2">
      <section v-for="w in walls" :key="w.side" :data-testid="`wall-${w.side}`">
        <h3 class="mb-1 flex items-center gap-2 font-semibold">
          {{ w.side === 'before' ? 'As it came in' : 'After the change' }}
          <svg v-if="read.length" width="34" height="10" aria-hidden="true">
            <path
              d="M0 5h34"
              :stroke="w.side === 'after' ? 'var(--led-line)' : 'var(--filament-line)'"
              stroke-width="3"
              :stroke-dasharray="w.side === 'after' ? undefined : '7 5'"
            />
          </svg>
        </h3>
        <EmptyBox v-if="!w.wall">
          <ChoiceRow
            v-if="!walls.some((o) => o.wall)"
            label="Marks across and down"
            :options="grids"
            :value="grid"
            class="mb-2"
            @pick="grid = $event"
          />
          <button type="button" class="btn btn-main min-h-14 w-full justify-center" :disabled="!grids.length" @click="add(w.side)">
            Read this wall
          </button>
        </EmptyBox>
        <template v-else>
          <EmptyBox v-if="w.wall.reason">{{ w.wall.reason }}</EmptyBox>
          <template v-else-if="w.wall.figures">
            <WallMap
              v-if="look === 'beside' || !compared?.difference"
              :wall="w.wall"
              :mark="editing === w.wall.id ? mark : null"
              pickable
              @pick="pick(w.wall.id, $event)"
            />
            <WallFigureList :figures="w.wall.figures" />
          </template>
          <button type="button" class="btn mt-2 mr-2" @click="edit(editing === w.wall.id ? null : w.wall.id)">
            {{ editing === w.wall.id ? 'done' : 'enter its readings' }}
          </button>
          <a v-if="w.wall.figures" class="btn mt-2" :href="ofJob(job.id, 'wall-photometry', { wall: w.wall.id })" download>as LM-63</a>
        </template>
      </section>
    </div>
    <WallEntry
      v-if="entered"
      :key="entered.id"
      v-model:mark="mark"
      :wall="entered"
      :line="view?.walls.find((w) => w.id === entered?.id)?.line_m"
      @remove="remove"
    />
    <WallCuts v-if="read.length" class="mt-4" :walls="read" :most="most" :cutoff="cutoff" />
    <PicturesPart :beam="beam" :pair="view?.pictures.find((p) => p.beam === beam)" />
    <PredictedPart v-if="beam === 'low'" :predicted="view?.predicted ?? null" :measured="walls[1].wall" />
  </div>
</template>
