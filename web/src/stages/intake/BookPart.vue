<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ToneNote from '../../ui/ToneNote.vue'

/** What the book has for this machine: its earlier jobs, and what was read on others of its model. */
const props = defineProps<{ book: Schemas['BookOffers']; visits: Schemas['IntakeView']['visits'] }>()
const job = useJob()
const offers = computed(() => [...props.book.points, ...props.book.draws])
const shown = ref(false)
</script>

<template>
  <section v-if="offers.length || visits.length" aria-label="From the book" class="grid gap-2" data-testid="from-the-book">
    <p v-if="visits.length">
      <RouterLink
        class="font-semibold underline underline-offset-4"
        :to="{ name: 'machine', params: { id: job.document?.machine_id ?? job.id } }"
        >{{ visits.length === 1 ? 'It was here once before' : `It was here ${visits.length} times before` }}</RouterLink>, last on
      {{ visits[0].came_in }}: its lamps, wires and readings stand as it went out.
    </p>
    <ToneNote v-if="offers.length" tone="plain">
      <p class="flex flex-wrap items-center gap-3">
        <span class="min-w-0 flex-1">
          <RouterLink
            class="font-semibold underline underline-offset-4"
            :to="{ name: 'learnt-model', query: { name: book.model ?? '' } }"
            >{{ book.model }}</RouterLink
          >
          is known: {{ offers.length }} {{ offers.length === 1 ? 'figure' : 'figures' }} of the same model, measured elsewhere.
        </span>
        <button type="button" class="btn" @click="shown = !shown">{{ shown ? 'Hide them' : 'See them' }}</button>
        <button type="button" class="btn btn-main" @click="job.act('take_learnt', 'all')">Take them all</button>
      </p>
      <ul v-if="shown" class="mt-2">
        <li v-for="o in offers" :key="o.key + o.name" class="flex flex-wrap items-center gap-3 border-t border-line py-1">
          <span class="min-w-0 flex-1"
            ><span class="font-semibold">{{ o.name }}</span
            ><span class="block text-sm text-dim">{{ o.words }}</span></span
          >
          <button type="button" class="btn" @click="job.act('take_learnt', o.key)">Take it</button>
        </li>
      </ul>
    </ToneNote>
  </section>
</template>
