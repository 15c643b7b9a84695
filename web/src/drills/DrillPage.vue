<script setup lang="ts">
import { computed, watch } from 'vue'
import { useRoute } from 'vue-router'
import FailNote from '../ui/FailNote.vue'
import { money, plain } from '../ui/format'
import BenchView from './BenchView.vue'
import DebriefView from './DebriefView.vue'
import QuestionView from './QuestionView.vue'
import { useDrill } from './useDrill'

/** A drill: the bench while it is played, what it was worth when it has ended. */
const route = useRoute()
const id = computed(() => String(route.params.id))
const drill = useDrill(id)
const view = drill.view
const title = computed(() => view.value?.bench?.machine ?? view.value?.question?.title ?? 'Drill')
watch(title, (t) => (document.title = `${t}, drill · Miser`), { immediate: true })
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1240px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b-2 border-ink py-2">
      <RouterLink to="/drills" class="btn btn-bare">‹ drills</RouterLink>
      <h1 class="text-2xl">{{ title }}</h1>
      <span v-if="view" class="mr-auto text-dim">level {{ view.drill.level }}, {{ view.drill.level_label }}</span>
      <span v-if="view?.play" class="num flex items-baseline gap-5" aria-live="polite" data-testid="spent">
        <span
          ><span class="text-[1.75rem] font-bold">{{ plain(view.play.spent.minutes, 1) }}</span
          ><span class="unit"> min</span></span
        >
        <span
          ><span class="text-[1.75rem] font-bold">{{ money(view.play.spent.cents) }}</span
          ><span class="unit"> parts</span></span
        >
      </span>
    </header>
    <FailNote v-if="drill.failed.value" :text="drill.failed.value" class="mt-3">
      <button type="button" class="btn ml-3" @click="drill.fetch()">Try again</button>
    </FailNote>
    <p v-if="!view && !drill.failed.value" class="p-4 text-dim" role="status">Setting up the bench …</p>
    <template v-if="view?.bench && view.play">
      <p class="my-3 border-l-4 border-edge bg-shade px-3 py-2 text-lg" data-testid="complaint">“{{ view.bench.complaint }}”</p>
      <DebriefView v-if="view.play.debrief" :drill="view.drill" :bench="view.bench" :play="view.play" />
      <BenchView v-else :id="id" :bench="view.bench" :play="view.play" :drill="drill" />
    </template>
    <QuestionView v-if="view?.question" :view="view" :drill="drill" />
  </main>
</template>
