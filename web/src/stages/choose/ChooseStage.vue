<script setup lang="ts">
import { computed } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import AccessoriesPart from '../../parts/AccessoriesPart.vue'
import { stageFor } from '../registry'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import Caution from '../../ui/Caution.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import FigureValue from '../../ui/FigureValue.vue'
import FlagNote from '../../ui/FlagNote.vue'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'
import PartPicker from './PartPicker.vue'

const job = useJob()
const route = useRoute()
const router = useRouter()
const reference = useReference()
const { view, failed } = useStageView('choose')
const document = computed(() => job.document!)
const lamps = computed(() => view.value?.lamps ?? [])
const wanted = computed(() => document.value.loads.filter((l) => l.wanted && !l.fed_by))
const views = computed(() => Object.fromEntries((view.value?.loads ?? []).map((l) => [l.id, l])))
const current = computed(
  () => lamps.value.find((l) => l.id === route.params.subject) ?? lamps.value.find((l) => !l.action) ?? lamps.value[0],
)
const inside = computed(() => document.value.loads.filter((l) => !l.brought_by && l.position_id === current.value?.id))
const acCircuits = computed(() => document.value.circuits.filter((c) => c.kind === 'ac'))
const held = computed(() => reference.tables?.assumptions.find((a) => a.key === 'ac_regulated_v')?.default)

function word(lamp: Schemas['LampView']) {
  if (!lamp.action) return lamp.parts ? `not decided, ${lamp.parts} held against it` : 'not decided'
  return lamp.part ?? (lamp.action === 'keep' ? 'stays as it is' : 'taken off')
}
function go(lamp: Schemas['LampView']) {
  void router.replace({ name: 'choose', params: { id: job.id, subject: lamp.id } })
}
const two = (figure: Schemas['Figure'] | null, none: string) => (figure ? (figure.value?.toFixed(2) ?? '?') : none)
</script>

<template>
  <div class="max-w-[1180px]">
    <h2 class="mb-3 text-xl">Choose</h2>
    <FailNote :text="failed" />
    <FlagNote v-for="f in view?.flags" :key="f.key + f.text" :flag="f" class="mb-3" />
    <EmptyBox v-if="view && lamps.length === 0">
      No lamps yet.
      <RouterLink class="text-brass underline" :to="{ name: stageFor('new machine'), params: { id: job.id } }"
        >Enter them first.</RouterLink
      >
    </EmptyBox>
    <div v-else-if="view" class="grid gap-6 min-[1000px]:grid-cols-[20rem_minmax(0,1fr)]">
      <ol class="border-t border-line max-[999px]:max-h-64 max-[999px]:overflow-y-auto" aria-label="Lamps">
        <li v-for="l in lamps" :key="l.id">
          <button
            type="button"
            class="flex min-h-14 w-full items-center gap-2 border-b border-line px-2 text-left"
            :class="current?.id === l.id ? 'bg-shade' : 'hover:bg-shade'"
            :aria-current="current?.id === l.id"
            @click="go(l)"
          >
            <span class="min-w-0 flex-1">
              <span class="block font-semibold"
                >{{ l.name }}<span v-if="l.count > 1" class="text-dim"> ×{{ l.count }}</span></span
              >
              <span class="block truncate text-sm" :class="l.action ? 'text-dim' : 'text-brass'">{{ word(l) }}</span>
            </span>
            <span class="num shrink-0 text-right text-sm">
              <span v-for="f in l.functions" :key="f.load_id" class="block whitespace-nowrap">
                <span v-if="l.functions.length > 1" class="mr-2 text-dim">{{ f.word }}</span>
                <span v-if="f.before" class="text-dim">{{ two(f.before, '0.00') }}</span>
                <template v-if="l.action && l.action !== 'keep'">
                  → <b>{{ two(f.after, '0.00') }}</b></template
                >
                A
              </span>
            </span>
          </button>
        </li>
      </ol>
      <PartPicker
        v-if="current"
        :key="current.id"
        :learnt="(view?.learnt ?? []).filter((l) => l.lamp === current?.id)"
        :lamp="current"
        :loads="inside"
      />
    </div>

    <section v-for="c in acCircuits" :key="c.id" class="mt-8" :aria-label="`Regulator: ${c.name}`">
      <h3 class="mb-2 text-lg">{{ c.name }}: fitted with the change</h3>
      <Caution of="ac_runaway" class="mb-2" />
      <div class="flex flex-wrap items-end gap-6">
        <YesNo :at="`/circuits/${c.id}/regulator_after/fitted`" label="AC regulator" :fallback="c.regulator?.fitted !== false" />
        <YesNo
          :at="`/circuits/${c.id}/regulator_after/makes_dc`"
          label="it rectifies and smooths to DC"
          :fallback="c.regulator?.makes_dc ?? false"
        />
        <QuantityField
          v-if="c.regulator_after?.fitted"
          :at="`/circuits/${c.id}/regulator_after/volts`"
          label="Volts it holds"
          unit="V"
          :placeholder="String(held ?? '')"
          class="w-36"
        />
      </div>
    </section>

    <section v-if="wanted.length" class="mt-8" aria-labelledby="wanted-head">
      <h3 id="wanted-head" class="mb-2 text-lg">Wanted accessories: fit them now?</h3>
      <div class="grid gap-x-8 gap-y-4 min-[900px]:grid-cols-2">
        <ul>
          <li v-for="w in wanted" :key="w.id" class="flex items-center gap-3 border-b border-line py-1">
            <YesNo :at="`/loads/${w.id}/taken`" :label="w.name" class="flex-1" />
            <FigureValue v-if="views[w.id]?.after" :figure="views[w.id].after!" :name="w.name" fine />
          </li>
        </ul>
        <AccessoriesPart :rows="view?.accessories ?? []" />
      </div>
    </section>
    <Caution of="law" class="mt-8" />
  </div>
</template>
