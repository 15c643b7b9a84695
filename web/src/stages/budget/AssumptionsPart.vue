<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'

const job = useJob()
const reference = useReference()
const groups = computed(() => {
  const map = new Map<string, NonNullable<typeof reference.tables>['assumptions']>()
  for (const a of reference.tables?.assumptions ?? []) map.set(a.group, [...(map.get(a.group) ?? []), a])
  return [...map]
})
const changed = computed(() => Object.keys(job.document?.assumptions ?? {}).length)
</script>

<template>
  <details class="border-t border-line" :open="$route.hash === '#assumptions'">
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
        <QuantityField
          v-for="a in list"
          :key="a.key"
          :at="`/assumptions/${a.key}`"
          :label="a.label"
          :unit="a.unit === '1' ? '' : a.unit"
          :step="a.default ? Number((a.default / 20).toPrecision(1)) : 0.01"
          :placeholder="String(a.default)"
          :help="`default ${a.default}; ${a.basis}. ${a.why}`"
        />
      </div>
    </section>
  </details>
</template>
