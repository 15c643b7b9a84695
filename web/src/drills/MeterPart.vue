<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import type { Schemas } from '../api/client'
import ChoiceRow from '../ui/ChoiceRow.vue'
import { plain } from '../ui/format'
import type { useDrill } from './useDrill'

/** A meter whose leads are put on named points; a lead clipped between the same two. */
const props = defineProps<{
  bench: Schemas['DrillBench']
  play: Schemas['DrillPlay']
  drill: ReturnType<typeof useDrill>
  set: { on: string[]; engine: 'off' }
}>()
const what = ref(props.bench.quantities[0].key)
const red = ref('')
const black = ref('')
/** Two leads for volts; everything else is read at one place. */
const two = computed(() => props.bench.quantities.find((q) => q.key === what.value)?.leads === 2)
const points = computed(() => props.bench.points.filter((p) => p.reads.includes(what.value)))
watch(
  points,
  (list) => {
    if (!list.some((p) => p.id === red.value)) red.value = list[0]?.id ?? ''
    if (!list.some((p) => p.id === black.value)) black.value = list.find((p) => p.id === '0')?.id ?? list.at(-1)?.id ?? ''
  },
  { immediate: true },
)
/** Points by what must be open to get at them. */
const opening = (at: string | null) => (at ? props.bench.openings.find((o) => o.key === at.split(':')[0]) : undefined)
const groups = computed(() => {
  const by = new Map<string, Schemas['DrillProbe'][]>()
  for (const p of points.value) {
    const name = !p.at
      ? 'At hand'
      : p.at.startsWith('lamp:')
        ? 'In the lamps'
        : p.at.startsWith('load:')
          ? 'At the loads'
          : opening(p.at)!.label
    by.set(name, [...(by.get(name) ?? []), p])
  }
  return [...by]
})
const last = computed(() => props.play.entries.findLast((e) => e.value !== null))
/** What must be opened first, and how long that takes. */
const first = computed(() => {
  const ends = two.value ? [red.value, black.value] : [red.value]
  const places = [
    ...new Set(
      ends
        .map((id) => points.value.find((p) => p.id === id)?.at)
        .filter((at): at is string => !!at && !props.play.state.reached.includes(at)),
    ),
  ]
  return places.map((at) => `${opening(at)!.label}: ${plain(opening(at)!.minutes, 0)} min`).join(', ')
})
const leads = computed(() => ({ red: red.value, black: two.value ? black.value : red.value }))
const read = () => void props.drill.act({ act: 'read', what: what.value, ...leads.value, ...props.set })
const clip = () => void props.drill.act(props.play.state.jumper ? { act: 'lift' } : { act: 'jumper', ...leads.value })
const name = (id: string) => props.bench.points.find((p) => p.id === id)?.name ?? id
const cost = computed(() => plain(props.bench.acts[what.value === 'ac_volts' ? 'read_ac' : 'read'], 0))
defineExpose({ read })
</script>

<template>
  <div>
    <div class="border-[1.5px] border-edge bg-leaf px-4 py-2" aria-live="polite" data-testid="display">
      <p class="num text-right text-[2.5rem] font-bold leading-tight">
        <template v-if="last"
          >{{ plain(last.value!, last.unit === 'V' || last.unit === 'A' ? 2 : 1)
          }}<span class="unit text-2xl">{{ `\u2009${last.unit}` }}</span></template
        ><template v-else>– – –</template>
      </p>
      <p class="min-h-10 text-sm text-dim">{{ last?.words ?? 'Put the leads down and read.' }}</p>
    </div>
    <ChoiceRow class="mt-2" label="What is read" :options="bench.quantities" :value="what" @pick="what = $event" />
    <label class="mt-2 block"
      ><span class="font-semibold">{{ two ? 'Red lead' : 'At' }}</span>
      <select v-model="red" class="field" data-testid="red">
        <optgroup v-for="[group, list] in groups" :key="group" :label="group">
          <option v-for="p in list" :key="p.id" :value="p.id">{{ p.name }}</option>
        </optgroup>
      </select>
    </label>
    <label v-if="two" class="mt-2 block"
      ><span class="font-semibold">Black lead</span>
      <select v-model="black" class="field" data-testid="black">
        <optgroup v-for="[group, list] in groups" :key="group" :label="group">
          <option v-for="p in list" :key="p.id" :value="p.id">{{ p.name }}</option>
        </optgroup>
      </select>
    </label>
    <p class="min-h-6 text-sm text-dim">{{ first ? `First: ${first}` : 'All of that is open.' }}</p>
    <div class="grid gap-1">
      <button type="button" class="btn btn-main justify-center" :disabled="drill.busy.value" data-testid="read" @click="read">
        <span class="kbd border-on-brass text-on-brass">R</span> Read · {{ cost }} min
      </button>
      <button v-if="what === 'volts'" type="button" class="btn justify-center" :disabled="drill.busy.value" @click="clip">
        {{ play.state.jumper ? 'Take the lead off' : `Clip a lead across · ${plain(bench.acts.jumper, 0)} min` }}
      </button>
    </div>
    <p v-if="play.state.jumper" class="mt-1 text-sm font-semibold">
      A fused lead from {{ name(play.state.jumper[0]) }} to {{ name(play.state.jumper[1]) }}.
    </p>
  </div>
</template>
