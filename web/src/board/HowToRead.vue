<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { computed } from 'vue'
import { useReference } from '../state/useReference'
import StageMark from '../ui/StageMark.vue'

/** What Miser is for and what the board's marks mean, open until it was closed once. */
const reference = useReference()
const closed = useLocalStorage('miser.board-read', false)
const states = computed(() => Object.entries(reference.tables?.stage_states ?? {}))
const terms = computed(() =>
  ['keeps', 'owes', '±', '◇'].flatMap((t) => (reference.tables?.terms[t] ? [[t, reference.tables.terms[t]]] : [])),
)
</script>

<template>
  <details
    class="mt-3 border-l-4 border-edge bg-shade px-4 py-1"
    :open="!closed"
    data-testid="how-to-read"
    @toggle="closed = !($event.target as HTMLDetailsElement).open"
  >
    <summary class="min-h-11 cursor-pointer py-2 font-semibold">What Miser is for, and how to read this board</summary>
    <p class="mb-2 max-w-3xl">
      Miser works out what a machine’s charging system earns and what its lamps and accessories spend, before and after they are changed to
      LED. Open a machine, or press what stands under “next”: it is the one step worth most now.
    </p>
    <p class="mb-2 flex flex-wrap gap-x-5 gap-y-1">
      <span class="text-dim">A square a stage:</span>
      <span v-for="[key, words] in states" :key="key" class="flex items-center gap-2"><StageMark :state="key" /> {{ words }}</span>
    </p>
    <dl class="mb-2 grid grid-cols-[auto_1fr] gap-x-4">
      <template v-for="[term, words] in terms" :key="term">
        <dt class="font-semibold">{{ term }}</dt>
        <dd>{{ words }}</dd>
      </template>
    </dl>
  </details>
</template>
