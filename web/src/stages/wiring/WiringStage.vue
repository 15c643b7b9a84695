<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { ofJob } from '../../api/client'
import { useJob } from '../../state/useJob'
import Caution from '../../ui/Caution.vue'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import { plain } from '../../ui/format'
import ToneNote from '../../ui/ToneNote.vue'
import { stageFor } from '../registry'
import BoxesPart from './BoxesPart.vue'
import ColoursPart from './ColoursPart.vue'
import FeedPane from './FeedPane.vue'
import FindingsPart from './FindingsPart.vue'
import LaidPart from './LaidPart.vue'
import StripMap from './StripMap.vue'
import TracksDrawing from './TracksDrawing.vue'
import TruthPart from './TruthPart.vue'
import { bounded } from './turned'
import { usePinch } from './usePinch'
import { useWiring } from './useWiring'

const job = useJob()
const route = useRoute()
const router = useRouter()
const { view, failed, unsolved, busy, look, on, turn, full, all } = useWiring()
const drawn = ref<'tracks' | 'strip'>('tracks')
const zoom = ref(1)
const sheet = ref<HTMLElement | null>(null)
usePinch(sheet, zoom)
const state = ref<string[] | null>(null)
/** The one asked for, else what the first finding is about. */
const load = computed(() => {
  const loads = view.value?.loads ?? []
  const wanted = [route.params.subject, ...(view.value?.findings ?? []).map((f) => f.subject)]
  return wanted.map((id) => loads.find((l) => l.id === id)).find(Boolean) ?? loads[0]
})
const every = ref(false)
/** What was touched, in words; gone with the next turn of a switch. */
const words = ref('')
watch(on, () => (words.value = ''))
const short = ref('')
const touched = computed(() => view.value?.shorts.find((s) => `${s.load} ${s.wire}` === short.value))
const asked = computed(() => ({ on: on.value.join('+'), all: all.value ? '1' : '0' }))
/** Findings that are seen at once. */
const FIRST = 2
const hidden = computed(() => {
  const found = view.value?.findings ?? []
  return found.length > FIRST || found.some((f) => f.severity === 'note')
})
const PARTS = [
  { id: 'drawing', label: 'Drawing' },
  { id: 'feeds', label: 'Feeds' },
  { id: 'truth', label: 'Switch positions' },
  { id: 'colours', label: 'Colours' },
  { id: 'boxes', label: 'Hubs, controllers' },
  { id: 'laid', label: 'The machine' },
]
const VIEWS = [
  { key: 'tracks' as const, label: 'tracks' },
  { key: 'strip' as const, label: 'strip map' },
]
function reach(part: string) {
  document.getElementById(`part-${part}`)?.scrollIntoView({ block: 'start' })
}
function pick(id: string) {
  if (view.value?.loads.some((l) => l.id === id)) void router.replace({ params: { id: job.id, subject: id } })
}
function lookAt(id: string) {
  pick(id)
  reach('feeds')
}
function stand(next: string[]) {
  state.value = next
  for (const s of view.value?.switches ?? []) if (on.value.includes(s.key) !== next.includes(s.key)) turn(s.key)
  reach('drawing')
}
const print = () => window.print()
</script>

<template>
  <div class="max-w-[1240px]">
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <h2 class="mr-2 text-xl">Wiring</h2>
      <nav v-if="view?.loads.length" class="no-print flex flex-wrap gap-1" aria-label="Parts of this page" data-testid="reach">
        <button v-for="p in PARTS" :key="p.id" type="button" class="btn btn-bare underline underline-offset-4" @click="reach(p.id)">
          {{ p.label }}
        </button>
      </nav>
      <span v-if="busy" class="text-sm text-dim" role="status">solving …</span>
    </div>
    <ToneNote v-if="failed || unsolved" tone="bad" class="mb-3" role="alert">{{ failed || unsolved }}</ToneNote>
    <Caution v-if="job.document?.system === 'data_bus'" of="data_bus" class="mb-3" />
    <EmptyBox v-if="view && !view.loads.length">
      Nothing is changed or added yet that wants a feed.
      <RouterLink class="text-brass underline" :to="{ name: stageFor('shelf'), params: { id: job.id } }"
        >Choose parts and accessories first.</RouterLink
      >
    </EmptyBox>
    <template v-if="view && view.loads.length">
      <FindingsPart :view="view" :shown="FIRST" :every="every" class="mb-2" @pick="lookAt" />
      <ToneNote
        :tone="view.well && !view.undecided.length ? 'good' : 'doubt'"
        class="mb-3 flex flex-wrap items-center gap-x-4 gap-y-1"
        data-testid="as-wanted"
      >
        <b>{{ view.words }}</b>
        <button type="button" class="no-print min-h-11 underline underline-offset-4" @click="reach('truth')">every position</button>
        <button
          v-if="hidden || every"
          type="button"
          class="no-print min-h-11 underline underline-offset-4"
          :aria-expanded="every"
          @click="every = !every"
        >
          {{ every ? 'the first findings alone' : `all ${view.findings.length} findings` }}
        </button>
        <span v-if="view.undecided.length" class="no-print ml-auto flex flex-wrap items-center gap-3" data-testid="undecided">
          <span
            ><b>{{ view.undecided.length }} of {{ view.loads.length }}</b> feeds only proposed</span
          >
          <button type="button" class="btn btn-main" :disabled="job.readonly" @click="job.act('wiring_take', 'all')">
            Take all proposals
          </button>
        </span>
      </ToneNote>
      <div id="part-drawing" class="scroll-mt-[calc(var(--rail-h,0px)+0.5rem)]">
        <div
          class="no-print sticky top-[var(--rail-h,0px)] z-10 mb-1 flex flex-wrap items-center gap-2 bg-paper py-1"
          data-testid="switches"
        >
          <span class="text-dim">turn them:</span>
          <button
            v-for="s in view.switches"
            :key="s.key"
            type="button"
            class="btn"
            :aria-pressed="on.includes(s.key)"
            :data-switch="s.key"
            @click="turn(s.key)"
          >
            {{ s.label }}
          </button>
          <button
            v-if="view.devices.some((d) => d.kind === 'controller')"
            type="button"
            class="btn"
            :aria-pressed="full"
            @click="full = !full"
          >
            full intensity
          </button>
          <ChoiceRow class="ml-auto" label="Drawn as" :options="VIEWS" :value="drawn" @pick="drawn = $event" />
          <button type="button" class="btn" aria-label="Smaller" @click="zoom = bounded(zoom - 0.25)">−</button>
          <button type="button" class="btn" aria-label="Larger" @click="zoom = bounded(zoom + 0.25)">+</button>
        </div>
        <div ref="sheet" data-testid="sheet">
          <TracksDrawing
            v-if="drawn === 'tracks'"
            :drawing="view.drawing"
            :look="look"
            :picked="load?.id ?? null"
            :zoom="zoom"
            @pick="pick"
            @touch="words = $event"
          />
          <StripMap v-else :strip="view.strip" :picked="load?.id ?? null" :zoom="zoom" @pick="pick" />
        </div>
        <p class="flex min-h-12 flex-wrap gap-x-6 gap-y-1 py-2" aria-live="polite" data-testid="now">
          <b v-if="words" data-testid="touched">{{ words }}</b>
          <template v-if="look">
            <span
              >lit now: <b>{{ look.lit.join(', ') || 'nothing' }}</b></span
            >
            <span v-if="look.worst_drop"
              >highest drop <b class="num">{{ plain(look.worst_drop * 100, 1) }} %</b></span
            >
            <span v-if="look.worst_fuse"
              >fullest fuse <b class="num">{{ plain(look.worst_fuse * 100, 0) }} %</b></span
            >
            <span class="num text-dim">{{ plain(look.source_v, 2) }} V at the source</span>
          </template>
        </p>
        <div class="no-print mb-3 flex flex-wrap gap-2">
          <button type="button" class="btn" :aria-pressed="all" @click="all = !all">draw all lamps</button>
          <button type="button" class="btn" @click="print">Print</button>
          <a class="btn" :href="ofJob(job.id, 'wiring/file', { kind: 'pdf', ...asked })" download>PDF</a>
          <a class="btn" :href="ofJob(job.id, 'wiring/file', { kind: drawn === 'strip' ? 'strip' : 'svg', ...asked })" download>SVG</a>
          <a class="btn" :href="ofJob(job.id, 'wiring/file', { kind: 'csv', ...asked })" download>Cut list</a>
          <a class="btn" :href="ofJob(job.id, 'wiring/file', { kind: 'netlist', ...asked })" download>Netlist</a>
        </div>
        <div v-if="view.shorts.length" class="no-print mb-4 flex flex-wrap items-center gap-3">
          <label class="flex flex-wrap items-center gap-2"
            >Touch it to earth:
            <select v-model="short" class="field w-auto max-w-full" data-testid="short">
              <option value="">choose a wire</option>
              <option v-for="s in view.shorts" :key="`${s.load} ${s.wire}`" :value="`${s.load} ${s.wire}`">{{ s.name }}</option>
            </select></label
          >
          <b v-if="touched" role="status">{{ touched.words }}</b>
        </div>
      </div>
      <div id="part-feeds" class="mt-6 scroll-mt-[calc(var(--rail-h,0px)+4rem)]">
        <ChoiceRow
          class="no-print mb-3"
          label="Lamp or accessory"
          :options="view.loads.map((l) => ({ key: l.id, label: l.name }))"
          :value="load?.id"
          @pick="pick"
        />
        <FeedPane v-if="load" :key="load.id" :load="load" :view="view" :look="look" />
        <p class="mt-3 text-sm text-dim">{{ view.law }}</p>
      </div>
      <TruthPart id="part-truth" class="mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" @show="stand" />
      <ColoursPart id="part-colours" :view="view" class="mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" />
      <BoxesPart id="part-boxes" :view="view" class="no-print mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" />
      <LaidPart id="part-laid" :view="view" class="no-print mt-8 scroll-mt-[calc(var(--rail-h,0px)+4rem)]" />
    </template>
  </div>
</template>
