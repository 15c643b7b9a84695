<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../api/client'
import { money, plain } from '../ui/format'
import ToneNote from '../ui/ToneNote.vue'
import LightDot from './LightDot.vue'
import VoltsWalk from './VoltsWalk.vue'

/** What it was, what it was worth, where the ways parted, and the machine as it really was at each step. */
const props = defineProps<{ drill: Schemas['DrillRow']; bench: Schemas['DrillBench']; play: Schemas['DrillPlay'] }>()
const debrief = computed(() => props.play.debrief!)
const step = ref(0)
const frame = computed(() => debrief.value.frames[Math.min(step.value, debrief.value.frames.length - 1)])
const lights = computed(() => props.bench.lights.filter((l) => frame.value?.looks[l.id]))
const percent = (share: number) => `${plain(share * 100, 0)} %`
</script>

<template>
  <div data-testid="debrief">
    <ToneNote :tone="debrief.solved ? 'good' : play.well ? 'doubt' : 'bad'">
      <p v-for="f in debrief.faults" :key="f.id" class="text-lg font-bold">It was: {{ f.words }}.</p>
      <p v-for="w in debrief.words" :key="w">{{ w }}</p>
      <p v-for="f in debrief.faults" :key="`${f.id}-proof`" class="mt-1">
        <span class="font-semibold">How it is proved:</span> {{ f.check }} <span class="font-semibold">Mended:</span> {{ f.cure }}
      </p>
    </ToneNote>
    <p v-if="drill.code" class="my-2">
      To hand it on: <code class="num select-all border border-edge px-2 py-1">{{ drill.code }}</code>
    </p>
    <div class="grid grid-cols-1 gap-x-8 gap-y-4 min-[900px]:grid-cols-2">
      <section v-if="debrief.parted" aria-labelledby="parted-head">
        <h2 id="parted-head" class="mb-1 mt-3 text-xl">Where the ways parted</h2>
        <p><span class="font-semibold">You:</span> {{ debrief.parted.did }}</p>
        <p><span class="font-semibold">Better:</span> {{ debrief.parted.better }}</p>
        <p class="text-dim">{{ plain(debrief.parted.over, 0) }} min more to be expected from there. It would have told:</p>
        <ul class="border-t border-line">
          <li
            v-for="(t, i) in debrief.parted.told"
            :key="i"
            class="flex gap-3 border-b border-line py-1"
            :class="t.so ? 'font-semibold' : ''"
          >
            <span class="num w-14 shrink-0 text-right">{{ percent(t.share) }}</span>
            <span class="min-w-0 first-letter:uppercase">{{ t.left }}<template v-if="t.so"> ← so it was</template></span>
          </li>
        </ul>
      </section>
      <section aria-labelledby="way-head">
        <h2 id="way-head" class="mb-1 mt-3 text-xl">How the best player goes about it</h2>
        <ol class="border-t border-line">
          <li v-for="(a, i) in debrief.best_way.acts" :key="i" class="flex gap-3 border-b border-line py-1">
            <span class="num w-6 shrink-0 text-right text-dim">{{ i + 1 }}</span>
            <span class="min-w-0 flex-1">{{ a.words }}</span>
            <span class="num min-w-0 max-w-[45%] text-right text-dim">{{ a.told }}</span>
          </li>
        </ol>
        <p class="num py-1 text-dim">{{ plain(debrief.best_way.minutes, 1) }} min, {{ money(debrief.best_way.cents) }} in parts</p>
      </section>
    </div>
    <section v-if="frame" aria-labelledby="play-head" class="mt-4 border-t-2 border-line pt-2">
      <h2 id="play-head" class="text-xl">As it really was</h2>
      <div class="my-2 flex flex-wrap items-center gap-2">
        <button type="button" class="btn" :disabled="step === 0" @click="step--">‹ one step back</button>
        <input
          v-model.number="step"
          type="range"
          min="0"
          :max="debrief.frames.length - 1"
          class="min-h-11 flex-1 accent-brass"
          aria-label="Step"
        />
        <button type="button" class="btn" :disabled="step >= debrief.frames.length - 1" @click="step++">one step on ›</button>
      </div>
      <p class="font-semibold" aria-live="polite">
        <span class="num text-dim">{{ frame.n }}</span> {{ frame.words }}
      </p>
      <div class="grid grid-cols-1 items-start gap-x-8 gap-y-3 min-[900px]:grid-cols-[minmax(0,1fr)_22rem]">
        <div>
          <p v-if="frame.ways.length === 0" class="py-3 text-dim">
            No current is concerned: what sits wrong was read at the wall and at the seat.
          </p>
          <template v-for="(way, i) in frame.ways" :key="i">
            <p class="mt-2 text-sm text-dim">Volts from point to point; dashed, as they should be: {{ way.fault }}</p>
            <VoltsWalk :way="way" />
          </template>
        </div>
        <ul class="grid grid-cols-2 gap-x-2">
          <li v-for="l in lights" :key="l.id" class="flex min-h-10 items-center gap-2">
            <LightDot :look="frame.looks[l.id]" :lamp="l.lamp" /> <span class="leading-tight">{{ l.name }}</span>
          </li>
        </ul>
      </div>
    </section>
    <details class="mt-4">
      <summary class="min-h-11 cursor-pointer py-2 text-dim">Every step, and what it cost over the best</summary>
      <table class="sheet w-full">
        <thead>
          <tr>
            <th>done</th>
            <th class="r">over</th>
            <th class="r">may still be</th>
            <th>best there</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="(s, i) in debrief.steps" :key="i">
            <td>{{ s.words }}</td>
            <td class="r num" :class="s.over > 0 ? 'font-semibold' : 'text-dim'">{{ plain(s.over, 1) }} min</td>
            <td class="r num">{{ s.remains }}</td>
            <td>{{ s.best }}</td>
          </tr>
        </tbody>
      </table>
    </details>
  </div>
</template>
