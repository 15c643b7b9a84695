<script setup lang="ts">
import { computed, ref, useTemplateRef, watch } from 'vue'
import type { Schemas } from '../api/client'
import Caution from '../ui/Caution.vue'
import ChoiceRow from '../ui/ChoiceRow.vue'
import { plain } from '../ui/format'
import DonePart from './DonePart.vue'
import LightsPart from './LightsPart.vue'
import MendPart from './MendPart.vue'
import MeterPart from './MeterPart.vue'
import NotesPart from './NotesPart.vue'
import type { useDrill } from './useDrill'
import { useKeys } from '../ui/overlays'

/** The bench: switches and lamps, the meter, what was done, what it may be. */
const props = defineProps<{ bench: Schemas['DrillBench']; play: Schemas['DrillPlay']; drill: ReturnType<typeof useDrill>; id: string }>()
/** Switches are set first and then looked at: what was last told is of the machine as it stood. */
const on = ref<string[]>([])
const engine = ref('off')
watch(
  () => [props.id, props.play.state] as const,
  () => ((on.value = [...props.play.state.on]), (engine.value = props.play.state.engine)),
  { immediate: true },
)
function turn(key: string) {
  const apart = props.bench.apart.find((group) => group.includes(key)) ?? []
  const others = on.value.filter((s) => !apart.includes(s))
  on.value = on.value.includes(key) ? on.value.filter((s) => s !== key) : [...others, key]
}
const set = computed(() => ({ on: on.value, engine: engine.value as 'off' }))
const moved = computed(
  () =>
    [...on.value].sort().join() !== [...props.play.state.on].sort().join() ||
    engine.value !== props.play.state.engine ||
    (props.drill.looked.value?.since ?? false),
)
const look = () => void props.drill.act({ act: 'look', ...set.value })
const meter = useTemplateRef<InstanceType<typeof MeterPart>>('meter')
const mend = useTemplateRef<InstanceType<typeof MendPart>>('mend')
/** Keys mean nothing while something is being typed. */
useKeys((event) => {
  const typed = event.target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(event.target.tagName)
  if (typed || event.ctrlKey || event.metaKey || event.altKey) return
  const done: Record<string, () => void> = { l: look, r: () => meter.value?.read(), m: () => mend.value?.focus() }
  done[event.key.toLowerCase()]?.()
})
const cost = (act: string) => `${plain(props.bench.acts[act] ?? 0, 1)} min`
</script>

<template>
  <div
    class="grid grid-cols-1 items-start gap-x-6 gap-y-4 min-[900px]:grid-cols-[minmax(0,1fr)_minmax(0,1fr)] min-[1180px]:grid-cols-[minmax(0,30rem)_minmax(0,21rem)_minmax(0,1fr)]"
  >
    <section aria-labelledby="drill-machine">
      <h2 id="drill-machine" class="mb-1 text-xl">The machine</h2>
      <div class="flex flex-wrap gap-1" role="group" aria-label="Switches">
        <button
          v-for="s in bench.switches"
          :key="s.key"
          type="button"
          class="btn px-3"
          :aria-pressed="on.includes(s.key)"
          @click="turn(s.key)"
        >
          {{ s.label }}
        </button>
      </div>
      <ChoiceRow v-if="bench.engines.length" class="mt-2" label="Engine" :options="bench.engines" :value="engine" @pick="engine = $event" />
      <Caution v-if="engine !== 'off'" class="mt-2" of="running_engine" />
      <button type="button" class="btn btn-main mt-2 w-full justify-center" :disabled="drill.busy.value" data-testid="look" @click="look">
        <span class="kbd border-on-brass text-on-brass">L</span> Turn them and look round · {{ cost('look') }}
      </button>
      <LightsPart class="mt-3" :bench="bench" :play="play" :drill="drill" :moved="moved" />
    </section>
    <section aria-labelledby="drill-meter">
      <h2 id="drill-meter" class="mb-1 text-xl">The meter</h2>
      <MeterPart ref="meter" :bench="bench" :play="play" :drill="drill" :set="set" />
      <NotesPart :id="id" class="mt-4" :drill="drill" :hint="cost('hint')" />
    </section>
    <section aria-labelledby="drill-notes" class="min-w-0 min-[900px]:max-[1179px]:col-span-2">
      <h2 class="mb-1 text-xl">Name it and mend it</h2>
      <MendPart ref="mend" :bench="bench" :play="play" :drill="drill" />
      <h2 id="drill-notes" class="mb-1 mt-4 text-xl">Done so far</h2>
      <p v-if="drill.refused.value" class="mb-2 border-l-4 border-brick bg-brick-soft p-2" role="alert">{{ drill.refused.value }}</p>
      <DonePart :play="play" />
    </section>
  </div>
</template>
