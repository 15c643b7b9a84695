<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { api, AWAY, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { plain } from '../../ui/format'
import { useKeys } from '../../ui/overlays'

/** Taps in time with the flashes; held down while lit, they give the lit share too. */
const props = defineProps<{ side: 'before' | 'after' }>()
const job = useJob()
const taps = ref<number[]>([])
const releases = ref<number[]>([])
const result = ref<Schemas['Taps'] | null>(null)
const failed = ref('')
const PAUSE_S = 6
const HELD_S = 0.12

async function count() {
  const held = releases.value.length === taps.value.length && releases.value.every((r, i) => r - taps.value[i] > HELD_S)
  try {
    const { data } = await api.POST('/api/taps', { body: { taps: taps.value, releases: held ? releases.value : [] } })
    if (data) result.value = data
    failed.value = ''
  } catch {
    failed.value = `${AWAY} The taps are kept.`
  }
}
function down() {
  const now = performance.now() / 1000
  if (taps.value.length && now - taps.value[taps.value.length - 1] > PAUSE_S) {
    taps.value = []
    releases.value = []
    result.value = null
  }
  taps.value = [...taps.value.slice(-199), now]
}
function up() {
  if (releases.value.length >= taps.value.length) return
  releases.value = [...releases.value.slice(-199), performance.now() / 1000]
  void count()
}
function take() {
  if (result.value?.rate) job.set(`/checks/${props.side}/flash_per_min`, Number(result.value.rate.toFixed(1)))
}
const typing = (t: EventTarget | null) =>
  /^(INPUT|TEXTAREA|SELECT|BUTTON)$/.test((t as HTMLElement).tagName) || (t as HTMLElement).getAttribute('role') === 'button'
useKeys((e) => {
  if (e.key !== ' ' || e.repeat || typing(e.target)) return
  e.preventDefault()
  down()
})
useEventListener(window, 'keyup', (e: KeyboardEvent) => {
  if (e.key === ' ' && !typing(e.target)) up()
})
</script>

<template>
  <section aria-labelledby="count-head" class="max-w-xl" data-testid="flash-counter">
    <h3 id="count-head" class="mb-2 text-lg">Count the flashes</h3>
    <div class="flex flex-wrap items-center gap-4">
      <button
        type="button"
        class="btn btn-main min-h-20 min-w-44 touch-none justify-center text-lg select-none"
        @pointerdown="down"
        @pointerup="up"
        @keydown.enter.prevent="down"
        @keyup.enter="up"
        @keydown.space.prevent="$event.repeat || down()"
        @keyup.space="up"
      >
        Tap each flash <span class="kbd text-on-brass!">space</span>
      </button>
      <p aria-live="polite" class="min-w-0 flex-1">
        <template v-if="result?.rate">
          <span class="num text-3xl font-bold">{{ plain(result.rate, 1) }}</span>
          <span class="unit"> a minute ± {{ plain(result.sigma ?? 0, 1) }}</span>
          <span v-if="result.on_share" class="block"
            >lit <span class="num">{{ plain(result.on_share * 100, 0) }}</span> % of the time</span
          >
        </template>
        <span v-else class="num text-xl">{{ taps.length }} taps</span>
        <span class="block text-dim">{{ result?.words ?? 'Tap in time with the flashes; hold while lit for the lit share.' }}</span>
        <span v-if="failed" class="block text-brick">{{ failed }}</span>
      </p>
      <button type="button" class="btn" :disabled="!result?.rate" @click="take">
        Take it: {{ side === 'before' ? 'as it came in' : 'after' }}
      </button>
    </div>
  </section>
</template>
