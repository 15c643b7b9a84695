<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { plain } from '../ui/format'
import LightDot from './LightDot.vue'
import type { useDrill } from './useDrill'

/** Every lamp and accessory as it was last seen, by where it sits; touched, one can be opened, pulled, tried on the battery. */
const props = defineProps<{
  bench: Schemas['DrillBench']
  play: Schemas['DrillPlay']
  drill: ReturnType<typeof useDrill>
  moved: boolean
}>()
const chosen = ref<string | null>(null)
const looks = computed(() => props.drill.looked.value?.looks ?? null)
const ORDER = ['front', 'head', 'bars', 'dash', 'tank', 'engine', 'seat', 'rack', 'rear', 'tail']
const rank = (place: string) => (ORDER.indexOf(place) + ORDER.length + 1) % (ORDER.length + 1)
const lights = computed(() => [...props.bench.lights].sort((a, b) => rank(a.place ?? '') - rank(b.place ?? '')))
const light = computed(() => props.bench.lights.find((l) => l.id === chosen.value))
const state = computed(() => props.play.state)
const minutes = (act: string) => (props.bench.acts[act] ? ` · ${plain(props.bench.acts[act], 0)} min` : '')
const pulled = computed(() => !!light.value && state.value.empty.includes(light.value.id))
const bare = computed(() => !!light.value && state.value.bare.includes(light.value.id))
const housing = computed(() => props.bench.points.some((p) => p.at === `lamp:${light.value?.id}`))
const act = (name: 'open' | 'shut' | 'unplug' | 'plug' | 'bench') =>
  light.value && void props.drill.act({ act: name, lamp: light.value.id })
/** What a light does, in a word; of what does not shine, whether it works. */
const WORKS: Record<string, string> = { dark: 'off', steady: 'on' }
function standing(l: Schemas['DrillLight']) {
  if (state.value.empty.includes(l.id)) return 'unplugged'
  if (state.value.bare.includes(l.id)) return 'housing open'
  const look = looks.value?.[l.id]
  return !look ? '?' : l.lamp ? look : (WORKS[look] ?? look)
}
const toggle = (l: Schemas['DrillLight']) => (chosen.value = l.plug && chosen.value !== l.id ? l.id : null)
</script>

<template>
  <div>
    <p class="mb-1 min-h-6 text-dim" role="status">
      {{
        !looks ? 'Nobody has looked yet.' : moved ? 'As it was when last looked at; something has moved since.' : drill.looked.value!.words
      }}
    </p>
    <ul v-if="drill.looked.value?.lines.length" class="mb-1 font-semibold" :class="moved ? 'text-dim' : ''">
      <li v-for="line in drill.looked.value.lines" :key="line">{{ line }}</li>
    </ul>
    <ul
      class="grid grid-flow-row-dense grid-cols-2 gap-x-2 border-t border-line min-[1180px]:grid-cols-3"
      aria-label="Lamps and accessories"
    >
      <template v-for="l in lights" :key="l.id">
        <li>
          <button
            type="button"
            class="flex min-h-12 w-full items-center gap-2 px-1 text-left hover:bg-shade"
            :class="[moved ? 'text-dim' : '', chosen === l.id ? 'bg-shade' : '', l.plug ? '' : 'cursor-default']"
            :aria-expanded="l.plug ? chosen === l.id : undefined"
            :data-testid="`light-${l.id}`"
            @click="toggle(l)"
          >
            <LightDot :look="looks?.[l.id] ?? null" :lamp="l.lamp" />
            <span class="min-w-0 leading-tight">
              <span class="block">{{ l.name }}</span>
              <span class="block text-sm text-dim">{{ standing(l) }}</span>
            </span>
          </button>
        </li>
        <li v-if="light && chosen === l.id" class="col-span-full">
          <div class="flex flex-wrap items-center gap-1 border-y border-line bg-shade p-1" role="group" :aria-label="light.name">
            <span class="w-full font-semibold">{{ light.name }}</span>
            <button v-if="housing" type="button" class="btn" @click="act(bare ? 'shut' : 'open')">
              {{ bare ? 'Shut its housing' : 'Open its housing' }}
            </button>
            <button type="button" class="btn" @click="act(pulled ? 'plug' : 'unplug')">
              {{ pulled ? 'Plug it in again' : `Unplug it${minutes('unplug')}` }}
            </button>
            <button type="button" class="btn" @click="act('bench')">Straight on a battery{{ minutes('bench') }}</button>
          </div>
        </li>
      </template>
    </ul>
  </div>
</template>
