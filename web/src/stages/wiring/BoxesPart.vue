<script setup lang="ts">
import { computed } from 'vue'
import { api, freshId, type Schemas } from '../../api/client'
import OutputFields from '../../parts/OutputFields.vue'
import { useShelf } from '../../parts/useShelf'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import { plain } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'

/** Hubs and controllers: limits, what hangs on each output, steps and triggers. */
const props = defineProps<{ view: Schemas['WiringView'] }>()
const job = useJob()
const shelf = useShelf()
/** Boxes of the shop's own shelf. */
const { data: kept } = useFetched([() => shelf.version], () => api.GET('/api/parts'))
const boxes = computed(() => (kept.value?.parts ?? []).filter((p) => p.part.box && !p.retired))
const LIKE = ['name', 'total_a', 'hot_a', 'switched_a', 'lamp_a', 'fuse_a', 'quiescent_a', 'key_off_a', 'price_cents', 'outputs'] as const

/** As a box is put in, with what the shelf says of this one. */
function put(kept: Schemas['ShelfPart']) {
  const fresh = props.view.options.fresh[kept.part.box ?? '']
  const said = Object.fromEntries(LIKE.filter((key) => kept.part[key] !== undefined).map((key) => [key, kept.part[key]]))
  job.edit([{ op: 'add', at: '/wiring/devices', value: { ...fresh, id: freshId(), shelf_id: kept.id, ...said } }])
}
const at = (id: string) => `/wiring/devices/${id}`
const levels = computed(() => Array.from({ length: props.view.options.levels }, (_, i) => i + 1))
const channel = (id: string, key: string) => job.document?.wiring?.devices?.find((d) => d.id === id)?.[`channel_${key}` as 'channel_a']
const steps = computed(() => props.view.options.steps)

function setNumber(place: string, text: string) {
  job.edit([text ? { op: 'set', at: place, value: Number(text) } : { op: 'unset', at: place }])
}
</script>

<template>
  <section aria-labelledby="boxes-head" data-testid="boxes">
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <h3 id="boxes-head" class="mr-auto text-lg">Hubs and controllers</h3>
      <button type="button" class="btn" :disabled="job.readonly || !view.battery" @click="job.act('wiring_box', 'hub')">Add a hub</button>
      <button type="button" class="btn" :disabled="job.readonly || !view.battery" @click="job.act('wiring_box', 'controller')">
        Add a controller
      </button>
    </div>
    <p v-if="boxes.length && view.battery" class="mb-2 flex flex-wrap items-center gap-2" data-testid="shelf-boxes">
      <span class="text-dim">On the shelf:</span>
      <button v-for="b in boxes" :key="b.id" type="button" class="btn" :disabled="job.readonly" @click="put(b)">{{ b.part.name }}</button>
    </p>
    <details v-if="view.devices.some((d) => d.kind === 'hub')" class="mb-2" data-testid="status">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Is its status lamp red?</summary>
      <ol class="ml-6 list-decimal">
        <li v-for="s in view.options.status" :key="s.sign" class="mb-2">
          <b>{{ s.sign }}</b> {{ s.check }} <span class="text-dim">{{ s.cure }}</span>
        </li>
      </ol>
    </details>
    <p v-if="!view.battery" class="text-dim">There is no battery to feed one from.</p>
    <div v-for="d in view.devices" :key="d.id" class="mb-5 border-t border-line pt-3" :data-device="d.id">
      <div class="grid gap-3 sm:grid-cols-3 lg:grid-cols-4">
        <TextField :at="`${at(d.id)}/name`" label="Name" />
        <PickField :at="`${at(d.id)}/at`" label="Where it is" :options="view.options.places" none="by the battery" />
        <QuantityField :at="`${at(d.id)}/fuse_a`" label="Fuse at the battery" unit="A" :step="5" />
        <QuantityField :at="`${at(d.id)}/area_mm2`" label="Supply wire" unit="mm²" :step="0.5" :help="view.options.usual.area_mm2" />
        <QuantityField
          :at="`${at(d.id)}/quiescent_a`"
          label="It takes itself, key on"
          unit="A"
          :step="0.01"
          :help="view.options.usual.quiescent_a"
        />
        <QuantityField :at="`${at(d.id)}/key_off_a`" label="It takes itself, key off" unit="A" :step="0.001" />
        <template v-if="d.kind === 'hub'">
          <QuantityField
            v-for="l in view.options.usual.limits"
            :key="l.key"
            :at="`${at(d.id)}/${l.key}`"
            :label="l.label"
            unit="A"
            :step="1"
            :help="l.help"
          />
        </template>
        <template v-else>
          <PickField
            v-for="t in view.options.triggers"
            :key="t.key"
            :at="`${at(d.id)}/triggers/${t.key}`"
            :label="`${t.label} trigger`"
            :options="view.options.lines"
            none="not wired"
          />
        </template>
      </div>
      <table class="sheet mt-3 w-full">
        <thead>
          <tr>
            <th>output</th>
            <th class="r">limit</th>
            <th class="r">most at full</th>
            <th v-if="d.kind === 'controller'">step of intensity</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="o in d.outputs" :key="o.key">
            <td>
              {{ o.label }}<span v-if="o.colour" class="text-dim">, {{ o.colour }}</span>
            </td>
            <td class="r">
              <label v-if="d.kind === 'controller'">
                <span class="sr-only">Electronic fuse, {{ o.label }}</span>
                <select
                  class="field w-44"
                  :disabled="job.readonly"
                  :value="channel(d.id, o.key)?.fuse_a ?? ''"
                  @change="setNumber(`${at(d.id)}/channel_${o.key}/fuse_a`, ($event.target as HTMLSelectElement).value)"
                >
                  <option value="">not set</option>
                  <option v-for="s in steps" :key="s.key" :value="Number(s.key)">
                    {{ s.label }}{{ Number(s.key) === o.step_a ? ', recommended' : '' }}
                  </option>
                </select>
              </label>
              <span v-else class="num">{{ o.limit_a }} A</span>
            </td>
            <td class="r num">{{ plain(o.most_a ?? 0, 1) }} A</td>
            <td v-if="d.kind === 'controller'">
              <label>
                <span class="sr-only">Intensity, {{ o.label }}</span>
                <select
                  class="field w-24"
                  :disabled="job.readonly"
                  :value="channel(d.id, o.key)?.level ?? view.options.levels"
                  @change="setNumber(`${at(d.id)}/channel_${o.key}/level`, ($event.target as HTMLSelectElement).value)"
                >
                  <option v-for="l in levels" :key="l" :value="l">{{ l }}/{{ view.options.levels }}</option>
                </select>
              </label>
            </td>
          </tr>
        </tbody>
      </table>
      <OutputFields
        v-if="d.kind === 'hub'"
        class="mt-2"
        :at="`${at(d.id)}/outputs`"
        :outputs="job.document?.wiring?.devices?.find((x) => x.id === d.id)?.outputs"
        :lines="view.options.lines"
      />
      <button type="button" class="btn mt-2" :disabled="job.readonly" @click="job.edit([{ op: 'remove', at: at(d.id) }])">
        Take {{ d.name }} away
      </button>
    </div>
  </section>
</template>
