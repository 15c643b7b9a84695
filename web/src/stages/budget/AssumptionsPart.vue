<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useUnits } from '../../state/useUnits'
import PickField from '../../ui/PickField.vue'
import { focusOn } from '../../ui/focusOn'
import QuantityField from '../../ui/QuantityField.vue'

const job = useJob()
const reference = useReference()
const units = useUnits()
const groups = computed(() => {
  const map = new Map<string, NonNullable<typeof reference.tables>['assumptions']>()
  for (const a of reference.tables?.assumptions ?? []) map.set(a.group, [...(map.get(a.group) ?? []), a])
  return [...map]
})
function step(a: { default: number; unit: string }): number {
  const shown = Number(units.settingText(a.default, a.unit))
  return shown ? Number((shown / 20).toPrecision(1)) : 0.01
}
const route = useRoute()
const open = ref(false)
/** Led here from a working, or by search: open, and the hand is in the field. */
watch(
  [() => route.hash, groups],
  async ([hash]) => {
    if (hash !== '#assumptions' && !hash.startsWith('#set-')) return
    open.value = true
    await nextTick()
    document.getElementById(hash.slice(1))?.scrollIntoView({ block: 'center' })
    if (hash.startsWith('#set-')) focusOn(`/assumptions/${hash.slice('#set-'.length)}`)
  },
  { immediate: true, flush: 'post' },
)
const changed = computed(() => Object.keys(job.document?.assumptions ?? {}).length)
</script>

<template>
  <details id="assumptions" class="border-t border-line" :open="open" @toggle="open = ($event.target as HTMLDetailsElement).open">
    <summary class="min-h-11 cursor-pointer py-2 text-lg font-semibold">
      Assumptions <span class="text-brass" aria-hidden="true">◇</span>
      <span class="font-normal text-dim">{{ changed ? `${changed} changed for this job` : 'all at their defaults' }}</span>
    </summary>
    <PickField
      at="/assumptions/voltage_school"
      label="Volts that amps are figured at"
      :options="reference.tables?.voltage_schools ?? []"
      fallback="measured"
      class="mb-4 max-w-md"
    />
    <section v-for="[group, list] in groups" :key="group" class="mb-5">
      <h4 class="mb-2 font-bold">{{ group }}</h4>
      <div class="grid gap-x-6 gap-y-3 sm:grid-cols-2 lg:grid-cols-3">
        <div v-for="a in list" :id="`set-${a.key}`" :key="a.key">
          <QuantityField
            :at="`/assumptions/${a.key}`"
            :label="a.label"
            :unit="a.unit === '1' ? '' : a.unit"
            :small="a.unit === 'm'"
            :step="step(a)"
            :placeholder="units.settingText(a.default, a.unit)"
            :help="`default ${units.settingText(a.default, a.unit)}; ${a.basis}. ${a.why}`"
          />
        </div>
      </div>
    </section>
  </details>
</template>
