<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, freshId, type Schemas } from '../../api/client'
import PartFields from '../../parts/PartFields.vue'
import { useShelf } from '../../parts/useShelf'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import { usePhotometryFile } from '../../state/usePhotometryFile'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import Caution from '../../ui/Caution.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { focusOn } from '../../ui/focusOn'
import { minutes, money, plain, toneOf } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import ToneNote from '../../ui/ToneNote.vue'
import YesNo from '../../ui/YesNo.vue'
import { stageFor } from '../registry'
import CapsTable from './CapsTable.vue'
import BucketDrawing from './BucketDrawing.vue'

const job = useJob()
const route = useRoute()
const router = useRouter()
const reference = useReference()
const shelf = useShelf()
const tables = computed(() => reference.tables)
const { view, failed } = useStageView('headlight')
const picked = ref<string | null>(null)
const lamps = computed(() => view.value?.lamps ?? [])
const lamp = computed(() => lamps.value.find((l) => l.id === route.params.subject) ?? lamps.value[0])
const place = computed(() => job.document?.positions.find((p) => p.id === lamp.value?.id))
const at = computed(() => `/positions/${lamp.value?.id}`)
const housing = computed(() => ({ ...place.value?.housing, ...place.value?.holder }))
const markLabel = (key: string) => tables.value?.marks.find((m) => m.key === key)?.label ?? key
const shown = computed(() => lamp.value?.candidates.find((c) => c.id === picked.value) ?? lamp.value?.candidates[0])
const choice = computed(() => job.document?.choices.find((c) => c.id === shown.value?.id))
const part = computed(() => choice.value?.part)
const best = computed(() => lamp.value?.candidates.find((c) => c.id === lamp.value?.recommended))
const bases = computed(() => (tables.value?.bases ?? []).map((b) => ({ key: b.key, label: b.key })))
const photometry = usePhotometryFile()
const files = computed(() => (job.document?.beam?.photometry ?? []).map((f) => ({ key: f.id, label: f.name })))
/** Parts of the shelf that could go in here. */
const { data: offered } = useFetched([() => lamp.value?.id, () => job.view?.revision, () => shelf.version], () =>
  lamp.value
    ? api.GET('/api/jobs/{id}/options', { params: { path: { id: job.id }, query: { lamp: lamp.value.id, scenario: job.scenario } } })
    : null,
)
const proposed = computed(() => (offered.value?.lamp === lamp.value?.id ? (offered.value?.shelf ?? []).filter((o) => o.fit !== 'no') : []))

function hold(part: Schemas['job_part']) {
  const id = freshId()
  picked.value = id
  job.edit([{ op: 'add', at: '/choices', value: { id, position_id: lamp.value!.id, action: 'try', part } }])
  return id
}
function add(kind: 'bulb' | 'unit' | 'projector') {
  const figures = () => [{ id: freshId(), origin: 'maker' as const }]
  const functions = lamp.value!.does.map((does) => ({ id: freshId(), does: does as 'head_low', figures: figures() }))
  const id = hold({ name: `New ${kind}`, kind, base: kind === 'bulb' ? place.value?.holder?.base : undefined, functions })
  focusOn(`/choices/${id}/part/name`)
}
function choose(id: string) {
  const now = job.document!.choices.find((c) => c.id === id)
  if (!now) return
  const fitted = now.action === 'swap' || now.action === 'add'
  job.edit([{ op: 'set', at: `/choices/${id}/action`, value: fitted ? 'try' : 'swap' }])
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-3 flex flex-wrap items-center gap-2">
      <h2 class="mr-auto text-xl">Headlight: will it fit?</h2>
      <template v-if="lamp">
        <button type="button" class="btn" @click="add('bulb')">Add a bulb</button>
        <button type="button" class="btn" @click="add('unit')">Add a unit</button>
        <button type="button" class="btn" @click="add('projector')">Add a projector</button>
      </template>
    </div>
    <Caution of="law" class="mb-3" />
    <FailNote :text="failed || photometry.failed.value" />
    <EmptyBox v-if="view && !lamp" class="mb-4">
      This machine has no headlamp yet.
      <RouterLink class="text-brass underline" :to="{ name: stageFor('new machine'), params: { id: job.id } }"
        >Enter its lamps first.</RouterLink
      >
    </EmptyBox>
    <template v-if="view && lamp">
      <ChoiceRow
        v-if="lamps.length > 1"
        class="mb-3"
        label="Which headlamp"
        :options="lamps.map((l) => ({ key: l.id, label: l.name }))"
        :value="lamp.id"
        @pick="(id) => router.replace({ params: { id: job.id, subject: id } })"
      />
      <ToneNote v-if="best" tone="good" class="mb-3" data-testid="recommended">
        <b>{{ best.name }}</b>, {{ best.school }}. {{ best.reasons.join('. ') }}.
      </ToneNote>
      <div v-if="lamp.candidates.length" class="overflow-x-auto">
        <table class="sheet mb-4 w-full">
          <thead>
            <tr>
              <th>part</th>
              <th>fit</th>
              <th class="r">draws, dipped</th>
              <th class="r">light</th>
              <th>pattern</th>
              <th class="r">price, time</th>
              <th><span class="sr-only">choose</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="c in lamp.candidates" :key="c.id" :class="shown?.id === c.id ? 'bg-shade' : ''" :data-candidate="c.id">
              <td>
                <button type="button" class="min-h-11 text-left font-semibold underline underline-offset-4" @click="picked = c.id">
                  {{ c.name }}
                </button>
                <span class="block text-sm text-dim"
                  >{{ c.school }}{{ c.marks ? `, marks: ${markLabel(c.marks)}` : '' }}, works loose: {{ c.loose }}</span
                >
              </td>
              <td class="font-semibold" :class="toneOf(c.verdict)">{{ reference.fit(c.verdict) }}</td>
              <td class="r num whitespace-nowrap"><FigureValue :figure="c.amps" name="Draw at running volts" fine /></td>
              <td class="r num whitespace-nowrap">{{ c.lumens === null ? '–' : `${plain(c.lumens, 0)} lm` }}</td>
              <td class="text-sm">{{ c.pattern }}</td>
              <td class="r num whitespace-nowrap">
                {{ money(c.cents) }}
                <span v-if="c.extra_parts.length" class="block text-sm text-dim"
                  >{{ money(c.own_cents) }} + {{ c.extra_parts.length }} more</span
                >
                <span class="block">{{ minutes(c.minutes) }} min</span>
                <span v-if="c.minutes !== c.own_minutes" class="block text-sm text-dim">{{ minutes(c.own_minutes) }} + fitting</span>
              </td>
              <td class="r">
                <button
                  type="button"
                  class="btn"
                  :aria-pressed="lamp.chosen === c.id"
                  :disabled="c.verdict === 'no' && lamp.chosen !== c.id"
                  @click="choose(c.id)"
                >
                  {{ lamp.chosen === c.id ? 'chosen' : 'choose' }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
      <EmptyBox v-else class="mb-4">
        Hold parts against it: each is held against the housing as measured, and what is not measured is named.
      </EmptyBox>
      <div v-if="proposed.length" class="mb-4 flex flex-wrap items-center gap-2" data-testid="proposed">
        <span class="text-dim">On the shelf, could go in:</span>
        <button
          v-for="o in proposed"
          :key="o.shelf_id ?? o.part.name"
          type="button"
          class="btn"
          @click="hold({ ...o.part, shelf_id: o.shelf_id ?? undefined })"
        >
          {{ o.part.name }}
        </button>
      </div>
      <template v-if="shown && part">
        <BucketDrawing :housing="housing" :part="part" :kind="shown.kind" :findings="shown.findings" :plug-room="view.plug_room_m" />
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
        <details :open="part.name.startsWith('New ')" class="mb-4" data-testid="measurements">
          <summary class="min-h-11 cursor-pointer py-2 font-semibold">Measurements of {{ part.name }}</summary>
          <PartFields :at="`/choices/${shown.id}/part`" :part="part" :kind="shown.kind" head>
            <div class="mt-3">
              <PickField
                v-if="files.length"
                :at="`/choices/${shown.id}/part/photometry`"
                label="Photometry"
                :options="files"
                none="none"
                class="max-w-80"
              />
              <label class="btn mt-1">
                Add its LM-63 file
                <input
                  type="file"
                  accept=".ies,.txt"
                  class="sr-only"
                  :aria-label="`Photometry of ${part.name}`"
                  @change="photometry.take($event, shown.id)"
                />
              </label>
            </div>
          </PartFields>
          <button type="button" class="btn mt-3" @click="job.edit([{ op: 'remove', at: `/choices/${shown.id}` }])">
            Take this part away
          </button>
        </details>
      </template>
      <section aria-labelledby="housing-head">
        <h3 id="housing-head" class="mb-2 text-lg">The machine’s housing, as measured</h3>
        <div class="grid gap-3 sm:grid-cols-3 lg:grid-cols-4">
          <PickField :at="`${at}/holder/base`" label="Lamp cap" :options="bases" none="not known" />
          <PickField :at="`${at}/housing/size`" label="Ring size" :options="tables?.unit_sizes ?? []" none="not known" />
          <PickField :at="`${at}/holder/retention`" label="The lamp is held by" :options="tables?.retentions ?? []" none="not known" />
          <PickField :at="`${at}/holder/connector`" label="Connector" :options="tables?.headlamp_connectors ?? []" none="not known" />
          <PickField :at="`${at}/holder/polarity`" label="Earth contact" :options="tables?.headlamp_contacts ?? []" none="not known" />
          <QuantityField :at="`${at}/housing/hole_m`" label="Hole" unit="m" small :step="0.1" />
          <QuantityField :at="`${at}/housing/ring_gap_m`" label="Gap of the retaining ring" unit="m" small :step="0.1" />
          <QuantityField :at="`${at}/housing/depth_m`" label="Depth behind the plane" unit="m" small :step="1" />
          <QuantityField :at="`${at}/housing/before_room_m`" label="Plane to shade or lens" unit="m" small :step="0.5" />
          <QuantityField :at="`${at}/housing/lock_room_m`" label="Room behind at both locks" unit="m" small :step="1" />
          <QuantityField :at="`${at}/housing/boot_m`" label="Opening of the rubber boot" unit="m" small :step="0.5" />
          <QuantityField :at="`${at}/housing/driver_room_m`" label="Room for a driver box" unit="m" small :step="1" />
          <QuantityField :at="`${at}/housing/reach_m`" label="From lamp to plug" unit="m" small :step="5" />
          <QuantityField
            :at="`${at}/housing/filament_m`"
            label="Plane to filament, measured"
            unit="m"
            small
            :step="0.1"
            help="empty: from the cap"
          />
          <YesNo :at="`${at}/housing/wet`" label="ridden in snow or wet" :fallback="lamp.winter" />
        </div>
      </section>
    </template>
    <CapsTable class="mt-4" />
  </div>
</template>
