<script setup lang="ts">
import { computed, ref, useTemplateRef } from 'vue'
import type { Schemas } from '../api/client'
import Caution from '../ui/Caution.vue'
import { money, plain } from '../ui/format'
import type { useDrill } from './useDrill'

/** What it may be, by name; mended, it is tried on the machine. */
const props = defineProps<{ bench: Schemas['DrillBench']; play: Schemas['DrillPlay']; drill: ReturnType<typeof useDrill> }>()
const word = ref('')
const part = ref('')
const chosen = ref<string | null>(null)
const field = useTemplateRef<HTMLInputElement>('field')
const SHOWN = 40
const tried = computed(() => new Set(props.play.entries.filter((e) => e.act.act === 'cure').map((e) => e.act.fault)))
const found = computed(() => {
  const words = word.value.trim().toLowerCase().split(/\s+/).filter(Boolean)
  return props.bench.mendings.filter((m) => (!part.value || m.part === part.value) && words.every((w) => m.label.toLowerCase().includes(w)))
})
const mending = computed(() => found.value.find((m) => m.id === chosen.value))
const opening = computed(() => {
  const at = mending.value?.at
  if (!at || props.play.state.reached.includes(at)) return ''
  const o = props.bench.openings.find((x) => x.key === at.split(':')[0])
  return o ? `${o.label}: ${plain(o.minutes, 0)} min more. ` : ''
})
async function mend() {
  const id = mending.value?.id
  if (id && (await props.drill.act({ act: 'cure', fault: id }))) chosen.value = null
}
defineExpose({ focus: () => field.value?.focus() })
</script>

<template>
  <div>
    <div class="flex gap-1">
      <label class="min-w-0 flex-1"
        ><span class="sr-only">Fault</span
        ><input ref="field" v-model="word" class="field" placeholder="name a fault …" data-testid="fault-word"
      /></label>
      <label class="min-w-0 flex-1"
        ><span class="sr-only">Part of the machine</span>
        <select v-model="part" class="field">
          <option value="">everywhere</option>
          <option v-for="p in bench.parts" :key="p.key" :value="p.key">{{ p.label }}</option>
        </select></label
      >
    </div>
    <ul class="mt-1 max-h-48 overflow-y-auto border-y border-line" aria-label="Faults" tabindex="0">
      <li v-for="m in found.slice(0, SHOWN)" :key="m.id">
        <button
          type="button"
          class="flex min-h-11 w-full items-center gap-2 px-2 text-left hover:bg-shade"
          :class="chosen === m.id ? 'bg-brass-soft font-semibold' : ''"
          :aria-pressed="chosen === m.id"
          data-testid="fault"
          @click="chosen = chosen === m.id ? null : m.id"
        >
          <span class="min-w-0 flex-1 first-letter:uppercase"
            >{{ m.label }}<span v-if="tried.has(m.id)" class="text-dim">, tried</span></span
          >
          <span class="num shrink-0 text-sm text-dim"
            >{{ plain(m.minutes, 0) }} min<template v-if="m.cents"> · {{ money(m.cents) }}</template></span
          >
        </button>
      </li>
      <li v-if="found.length > SHOWN" class="px-2 py-1 text-sm text-dim">{{ found.length - SHOWN }} more: name one above.</li>
      <li v-if="found.length === 0" class="px-2 py-2 text-dim">Nothing of that name can be wrong here.</li>
    </ul>
    <div v-if="mending" class="mt-2 border-l-4 border-brass bg-brass-soft p-2" data-testid="mending">
      <p class="font-semibold first-letter:uppercase">{{ mending.label }}</p>
      <p>{{ mending.cure }} {{ opening }}</p>
      <Caution class="my-1" of="battery_first" />
      <button type="button" class="btn btn-main mt-1" :disabled="drill.busy.value" data-testid="mend" @click="mend">
        Mend and try it · {{ plain(mending.minutes, 0) }} min<template v-if="mending.cents">, {{ money(mending.cents) }}</template>
      </button>
    </div>
  </div>
</template>
