<script setup lang="ts">
import { computed, ref } from 'vue'
import { freshId } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import Caution from '../../ui/Caution.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { minutes, money, plain, toneOf } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import ToneNote from '../../ui/ToneNote.vue'
import YesNo from '../../ui/YesNo.vue'
import CapsTable from './CapsTable.vue'
import BucketDrawing from './BucketDrawing.vue'
import CandidateFields from './CandidateFields.vue'

const job = useJob()
const reference = useReference()
const tables = computed(() => reference.tables)
const { view, failed } = useStageView('headlight')
const picked = ref<string | null>(null)
const housing = computed(() => job.document?.headlight?.housing ?? {})
const markLabel = (key: string) => tables.value?.marks.find((m) => m.key === key)?.label ?? key
const parts = computed(() => job.document?.headlight?.candidates ?? [])
const shown = computed(() => view.value?.candidates.find((c) => c.id === picked.value) ?? view.value?.candidates[0])
const part = computed(() => parts.value.find((p) => p.id === shown.value?.id))
const best = computed(() => view.value?.candidates.find((c) => c.id === view.value?.recommended))

const caps = computed(() => (tables.value?.headlamp_caps ?? []).map((key) => ({ key, label: key })))
function add(kind: 'bulb' | 'unit' | 'projector') {
  const id = freshId()
  picked.value = id
  job.edit([{ op: 'add', at: '/headlight/candidates', value: { id, name: `New ${kind}`, kind } }])
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-3 flex flex-wrap items-center gap-2">
      <h2 class="mr-auto text-xl">Headlight: will it fit?</h2>
      <button type="button" class="btn" @click="add('bulb')">Add a bulb</button>
      <button type="button" class="btn" @click="add('unit')">Add a unit</button>
      <button type="button" class="btn" @click="add('projector')">Add a projector</button>
    </div>
    <Caution of="law" class="mb-3" />
    <FailNote :text="failed" />
    <ToneNote v-if="best" tone="good" class="mb-3" data-testid="recommended">
      <b>{{ best.name }}</b>, {{ best.school }}. {{ best.reasons.join('; ') }}.
    </ToneNote>
    <div v-if="view?.candidates.length" class="overflow-x-auto">
      <table class="sheet mb-4 w-full">
        <thead>
          <tr>
            <th>part</th>
            <th>fit</th>
            <th class="r">draws</th>
            <th class="r">light</th>
            <th>pattern</th>
            <th class="r">price</th>
            <th class="r">time</th>
            <th>loosens</th>
            <th><span class="sr-only">choose</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="c in view.candidates" :key="c.id" :class="shown?.id === c.id ? 'bg-shade' : ''" :data-candidate="c.id">
            <td>
              <button type="button" class="min-h-11 text-left font-semibold underline underline-offset-4" @click="picked = c.id">
                {{ c.name }}
              </button>
              <span class="block text-sm text-dim">{{ c.school }}{{ c.marks ? `, marks: ${markLabel(c.marks)}` : '' }}</span>
            </td>
            <td class="font-semibold" :class="toneOf(c.verdict)">{{ reference.fit(c.verdict) }}</td>
            <td class="r num whitespace-nowrap"><FigureValue :figure="c.amps" name="Draw at running volts" fine /></td>
            <td class="r num whitespace-nowrap">{{ c.lumens === null ? '–' : `${plain(c.lumens, 0)} lm` }}</td>
            <td class="text-sm">{{ c.pattern }}</td>
            <td class="r num">{{ money(c.cents) }}</td>
            <td class="r num whitespace-nowrap">{{ minutes(c.minutes) }} min</td>
            <td>{{ c.loose }}</td>
            <td class="r">
              <button
                type="button"
                class="btn"
                :aria-pressed="view.chosen === c.id"
                :disabled="c.verdict === 'no' && view.chosen !== c.id"
                @click="job.act('headlight', view.chosen === c.id ? '' : c.id)"
              >
                {{ view.chosen === c.id ? 'chosen' : 'choose' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <EmptyBox v-else-if="view" class="mb-4">
      Add the parts you think of; each is held against the housing as measured, and what is not measured is named.
    </EmptyBox>
    <template v-if="shown && part">
      <BucketDrawing :housing="housing" :part="part" :findings="shown.findings" :plug-room="view!.plug_room_m" :ghosts="view!.ghosts" />
      <div class="overflow-x-auto print:overflow-visible">
        <table class="sheet my-4 w-full" data-testid="findings">
          <thead>
            <tr>
              <th>check</th>
              <th>verdict</th>
              <th class="r">to spare</th>
              <th>what it takes</th>
              <th class="r">time</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="f in shown.findings" :key="f.rule" :data-rule="f.rule">
              <td class="w-56 font-semibold">{{ f.label }}</td>
              <td class="w-36 font-semibold" :class="toneOf(f.verdict)">{{ reference.fit(f.verdict) }}</td>
              <td class="r num w-28 whitespace-nowrap">
                <FigureValue v-if="f.spare" :figure="f.spare" :name="`${f.label}, to spare`" small sign />
              </td>
              <td>
                {{ f.text }}
                <span v-if="f.part" class="block text-sm text-dim">orders: {{ f.part.name }}, usually {{ money(f.part.cents) }}</span>
                <span v-if="f.caution && f.verdict !== 'unknown'" class="block text-sm font-semibold text-brick">{{ f.caution }}</span>
              </td>
              <td class="r num whitespace-nowrap">{{ f.minutes ? `${plain(f.minutes, 0)} min` : '' }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <details :open="part.name.startsWith('New ')" class="mb-4">
        <summary class="min-h-11 cursor-pointer py-2 font-semibold">Measurements of {{ part.name }}</summary>
        <CandidateFields :at="`/headlight/candidates/${part.id}`" :part="part" :stated-v="view!.stated_v" />
        <button type="button" class="btn mt-3" @click="job.edit([{ op: 'remove', at: `/headlight/candidates/${part.id}` }])">
          Remove this part
        </button>
      </details>
    </template>
    <section aria-labelledby="housing-head">
      <h3 id="housing-head" class="mb-2 text-lg">The machine’s housing, as measured</h3>
      <div class="grid gap-3 sm:grid-cols-3 lg:grid-cols-4">
        <PickField at="/headlight/housing/cap" label="Lamp cap" :options="caps" none="not known" />
        <PickField at="/headlight/housing/size" label="Ring size" :options="tables?.unit_sizes ?? []" none="not known" />
        <PickField at="/headlight/housing/retention" label="The lamp is held by" :options="tables?.retentions ?? []" none="not known" />
        <PickField at="/headlight/housing/connector" label="Connector" :options="tables?.headlamp_connectors ?? []" none="not known" />
        <PickField at="/headlight/housing/polarity" label="Earth contact" :options="tables?.headlamp_contacts ?? []" none="not known" />
        <QuantityField at="/headlight/housing/hole_m" label="Hole" unit="m" small :step="0.1" />
        <QuantityField at="/headlight/housing/ring_gap_m" label="Gap of the retaining ring" unit="m" small :step="0.1" />
        <QuantityField at="/headlight/housing/depth_m" label="Depth behind the plane" unit="m" small :step="1" />
        <QuantityField at="/headlight/housing/before_room_m" label="Plane to shade or lens" unit="m" small :step="0.5" />
        <QuantityField at="/headlight/housing/lock_room_m" label="Room behind at both locks" unit="m" small :step="1" />
        <QuantityField at="/headlight/housing/boot_m" label="Opening of the rubber boot" unit="m" small :step="0.5" />
        <QuantityField at="/headlight/housing/driver_room_m" label="Room for a driver box" unit="m" small :step="1" />
        <QuantityField at="/headlight/housing/reach_m" label="From lamp to plug" unit="m" small :step="5" />
        <QuantityField
          at="/headlight/housing/filament_m"
          label="Plane to filament, measured"
          unit="m"
          small
          :step="0.1"
          help="empty: from the cap"
        />
        <YesNo at="/headlight/housing/wet" label="ridden in snow or wet" :fallback="view?.winter" />
      </div>
    </section>
    <CapsTable class="mt-4" />
  </div>
</template>
