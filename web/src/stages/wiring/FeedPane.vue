<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import Caution from '../../ui/Caution.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { minutes, money } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import ToneNote from '../../ui/ToneNote.vue'
import YesNo from '../../ui/YesNo.vue'

/** One lamp or accessory: how it is fed, and its wires. */
const props = defineProps<{ load: Schemas['WiringLoad']; view: Schemas['WiringView']; look: Schemas['WiringLook'] | null }>()
const job = useJob()
const at = computed(() => `/wiring/feeds/${props.load.feed}`)
const row = computed(() => job.document?.wiring?.feeds?.find((f) => f.id === props.load.feed))
const kept = (key: string) => row.value?.wires?.some((w) => w.id === key)
const minds = computed(() => [
  ...new Set(props.load.wires.map((w) => w.join && props.view.options.minds[w.join]).filter((m): m is string => !!m)),
])
const taken = computed(() => props.load.offers.find((o) => o.key === props.load.kind))
const relay = computed(() => props.load.kind === 'relay')
const boxed = computed(() => props.load.kind === 'hub' || props.load.kind === 'controller')
const boxes = computed(() => props.view.devices.filter((d) => d.kind === props.load.kind))
const outputs = computed(() => props.view.devices.find((d) => d.id === row.value?.device_id)?.outputs ?? [])
const switches = computed(() => (job.document?.wiring?.switches ?? []).map((s) => ({ key: s.id, label: s.name })))
const drop = computed(() => props.look?.wires.filter((w) => w.load === props.load.id) ?? [])
const others = computed(() =>
  props.view.loads.filter((l) => l.id !== props.load.id && l.wires.length).map((l) => ({ key: l.id, label: l.name })),
)
const SIDES = [
  { key: 'both', label: 'both sides' },
  { key: 'left', label: 'left' },
  { key: 'right', label: 'right' },
]
const TAPPED = [
  { key: 'machine', label: 'machine’s side of the plug' },
  { key: 'lamp', label: 'lamp’s side of the plug' },
]
</script>

<template>
  <section :aria-label="`Feed of ${load.name}`" data-testid="feed">
    <h3 class="mb-2 flex flex-wrap items-center gap-3 text-lg">
      {{ load.name }} <FigureValue :figure="load.amps" :name="`Draw of ${load.name}`" fine />
    </h3>
    <ToneNote v-if="!load.decided" tone="doubt" class="mb-3 flex flex-wrap items-center gap-3" data-testid="proposal">
      <span>
        Proposed: <b>{{ taken?.label }}</b>, because: {{ load.why }}.
      </span>
      <button type="button" class="btn btn-main" :disabled="job.readonly" @click="job.act('wiring_take', load.id)">Take it</button>
    </ToneNote>
    <p v-else-if="taken" class="mb-3">{{ taken.what }}</p>
    <div v-if="load.decided" class="grid gap-3 sm:grid-cols-3 lg:grid-cols-4" data-testid="feed-fields">
      <PickField :at="`${at}/wish`" label="Wanted on" :options="view.options.wishes" :fallback="load.wish" />
      <PickField
        v-if="relay"
        :at="`${at}/trigger`"
        label="Relay triggered by"
        :options="view.options.lines"
        :fallback="load.trigger ?? undefined"
      />
      <PickField
        v-else-if="load.source && load.wires.length && (load.kind === 'tap' || load.kind === 'branch')"
        :at="`${at}/source`"
        label="Taken from"
        :options="view.options.lines"
        :fallback="load.source"
      />
      <PickField
        v-if="others.length && (relay || load.kind === 'tap' || load.kind === 'branch')"
        :at="`${at}/from_load`"
        label="From what feeds another"
        :options="others"
        none="no: as above"
      />
      <QuantityField v-if="load.fused" :at="`${at}/fuse_a`" label="Fuse" unit="A" :step="1" />
      <QuantityField v-if="relay" :at="`${at}/relay_a`" label="Relay contact" unit="A" :step="5" :help="view.options.usual.relay_a" />
      <QuantityField v-if="relay" :at="`${at}/socket_a`" label="Relay socket" unit="A" :step="5" :help="view.options.usual.socket_a" />
      <PickField v-if="load.wires.length" :at="`${at}/at`" label="Where it is" :options="view.options.places" :fallback="load.at" />
      <PickField v-if="load.earth" :at="`${at}/earth`" label="Earth" :options="view.options.earths" :fallback="load.earth" />
      <PickField
        v-if="boxed"
        :at="`${at}/device_id`"
        label="Hub or controller"
        :options="boxes.map((d) => ({ key: d.id, label: d.name }))"
        none="not chosen"
      />
      <PickField
        v-if="boxed"
        :at="`${at}/output`"
        label="Output"
        :options="outputs.map((o) => ({ key: o.key, label: o.label }))"
        none="not chosen"
      />
      <PickField v-if="load.kind === 'controller'" :at="`${at}/side`" label="Side" :options="SIDES" fallback="both" />
      <PickField
        v-if="switches.length && load.wires.length"
        :at="`${at}/switch_id`"
        label="Switch of its own"
        :options="switches"
        none="none"
      />
      <PickField v-if="load.kind === 'tap'" :at="`${at}/tap_side`" label="Tapped on" :options="TAPPED" fallback="machine" />
      <YesNo v-if="relay" :at="`${at}/interlock`" label="A factory plug holds it back on high beam" />
      <YesNo v-if="relay && row?.interlock" :at="`${at}/jumper`" label="A jumper in the relay’s place" />
      <YesNo v-if="load.kind === 'controller'" :at="`${at}/strobe`" label="Strobe with the horn" />
      <YesNo :at="`${at}/plug_cut`" label="Its maker’s plug is cut off" />
    </div>
    <p v-if="load.fuse || load.area" class="mt-3" data-testid="recommended-sizes">
      Recommended:
      <template v-if="load.area && !load.area_words">wire: {{ load.area.reason }};</template>
      <template v-if="load.area && load.area_words"
        >wire <b>{{ load.area_words }}</b> (<FigureValue :figure="load.area" :name="`Wire for ${load.name}`" />)</template
      >
      <template v-if="load.fuse"> with a fuse of <FigureValue :figure="load.fuse" :name="`Fuse for ${load.name}`" /></template>.
      <b v-if="load.drop_missed">{{ load.drop_missed }}.</b>
    </p>
    <div v-if="load.wires.length" class="mt-3 overflow-x-auto">
      <table class="sheet w-full" data-testid="wires">
        <thead>
          <tr>
            <th>wire</th>
            <th>laid along</th>
            <th class="r">length</th>
            <th class="r">size</th>
            <th class="r">fused at most</th>
            <th class="r">loses now</th>
            <th>colour</th>
            <th>joined by</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="w in load.wires" :key="w.key" :data-wire="w.key">
            <td class="font-semibold">{{ w.label }}</td>
            <td class="text-sm">
              {{ w.via.join(' – ') }}
              <template v-if="load.decided && kept(w.id)">
                <PickField
                  :at="`${at}/wires/${w.id}/material`"
                  :label="`Conductor of, ${w.label}`"
                  hide-label
                  :options="view.options.materials"
                  fallback="copper"
                />
                <YesNo :at="`${at}/wires/${w.id}/near_exhaust`" label="near the exhaust" />
              </template>
            </td>
            <td class="r">
              <QuantityField
                v-if="load.decided && kept(w.id)"
                :at="`${at}/wires/${w.id}/length_m`"
                :label="`Length, ${w.label}`"
                unit="m"
                hide-label
                :step="0.05"
                :placeholder="String(w.length_m.toFixed(2))"
                class="w-32"
              />
              <span v-else class="num">{{ w.length_m.toFixed(2) }} m</span>
            </td>
            <td class="r">
              <QuantityField
                v-if="load.decided && kept(w.id)"
                :at="`${at}/wires/${w.id}/area_mm2`"
                :label="`Conductor, ${w.label}`"
                unit="mm²"
                hide-label
                :step="0.25"
                class="w-32"
              />
              <span v-else class="num whitespace-nowrap">{{ w.size }}</span>
            </td>
            <td class="r num whitespace-nowrap">{{ w.carries_a.toFixed(1) }} A</td>
            <td class="r num whitespace-nowrap">{{ ((drop.find((d) => d.key === w.key)?.drop ?? 0) * 1000).toFixed(0) }} mV</td>
            <td>
              <template v-if="load.decided && kept(w.id)">
                <TextField :at="`${at}/wires/${w.id}/colour`" :label="`Colour, ${w.label}`" hide-label class="w-28" />
                <YesNo :at="`${at}/wires/${w.id}/proved`" label="proved" />
              </template>
            </td>
            <td>
              <PickField
                v-if="load.decided && kept(w.id)"
                :at="`${at}/wires/${w.id}/join`"
                :label="`Joined by, ${w.label}`"
                hide-label
                :options="view.options.joins"
                none="not said"
                class="w-36"
              />
              <button
                v-else-if="load.decided"
                type="button"
                class="btn"
                :disabled="job.readonly"
                @click="job.edit([{ op: 'add', at: `${at}/wires`, value: { id: w.key, key: w.key } }])"
              >
                measure it
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <ul v-if="minds.length" class="mt-2 list-disc pl-6" data-testid="minds">
      <li v-for="m in minds" :key="m">{{ m }}</li>
    </ul>
    <Caution v-if="load.fused" of="fuse_last" class="mt-3" />
    <details class="mt-3">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Other ways to feed it</summary>
      <div class="overflow-x-auto">
        <table class="sheet w-full" data-testid="kinds">
          <thead>
            <tr>
              <th>way</th>
              <th class="r">time</th>
              <th class="r">cuts</th>
              <th class="r">parts, usually</th>
              <th>undone</th>
              <th><span class="sr-only">choose</span></th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="o in load.offers" :key="o.key" :class="o.key === load.kind ? 'bg-shade' : ''" :data-kind="o.key">
              <td>
                <span class="font-semibold">{{ o.label }}</span>
                <span class="block text-sm text-dim">{{ o.no ? `Not here: ${o.no}.` : o.what }}</span>
              </td>
              <td class="r num whitespace-nowrap">{{ o.no ? '' : `${minutes(o.minutes)} min` }}</td>
              <td class="r num">{{ o.no ? '' : o.cuts }}</td>
              <td class="r num whitespace-nowrap">{{ o.no ? '' : money(o.cents) }}</td>
              <td class="text-sm">{{ o.no ? '' : o.undo }}</td>
              <td class="r">
                <button
                  v-if="!o.no"
                  type="button"
                  class="btn"
                  :aria-pressed="load.decided && o.key === load.kind"
                  :disabled="job.readonly || (load.decided && o.key === load.kind)"
                  @click="job.act('wiring_kind', `${load.id}/${o.key}`)"
                >
                  {{ load.decided && o.key === load.kind ? 'taken' : 'take' }}
                </button>
              </td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  </section>
</template>
