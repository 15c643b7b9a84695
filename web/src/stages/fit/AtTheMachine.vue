<script setup lang="ts">
import { Dialog, DialogPanel } from '@headlessui/vue'
import { useEventListener, useIntervalFn, useWakeLock } from '@vueuse/core'
import { computed, nextTick, onBeforeUnmount, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { AWAY, ofJob } from '../../api/client'
import FindAndKeys from '../../find/FindAndKeys.vue'
import { useKeys, useOverlay } from '../../ui/overlays'
import { clockText, makeClock } from './clock'
import TrayGrid from './TrayGrid.vue'
import TrayPlace from './TrayPlace.vue'
import type { Cell, Step, useCard } from './useCard'
import { useStepPictures } from './useStepPictures'

/** One step at a time, as large as the screen: by thumb, by space, by page or arrow keys. */
const props = defineProps<{ card: ReturnType<typeof useCard>; from: string | null }>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const route = useRoute()
const overlay = useOverlay()
const { job, steps, cells, write, place, addPlace } = props.card
const pictures = useStepPictures()

const here = ref(props.from ?? (steps.value.find((s) => s.state !== 'done') ?? steps.value[0])?.key ?? '')
const index = computed(() =>
  Math.max(
    0,
    steps.value.findIndex((s) => s.key === here.value),
  ),
)
const step = computed<Step | undefined>(() => steps.value[index.value])
const following = computed(() => steps.value.slice(index.value + 1, index.value + 4))
const holdAhead = computed(() => steps.value.slice(index.value + 1).find((s) => s.hold && s.state !== 'done'))
const share = (i: number) => `${(100 * i) / Math.max(1, steps.value.length)}%`
const mine = computed(() => cells.value.filter((c) => step.value?.comes_out.includes(c.id) || step.value?.goes_back.includes(c.id)))
const oddity = computed(() => props.card.view.value?.oddities.find((o) => o.step === step.value?.key)?.text)
const picked = ref<string | null>(null)
const pickedCell = computed(() => cells.value.find((c) => c.place === picked.value))
const unsent = computed(() => props.card.waiting.value.length + pictures.waiting.value)
const away = computed(() => job.status === 'offline')

/* Time runs while a step is looked at and nobody paused it; what was counted outlives the window. */
const KEPT = `miser.clock.${job.id}`
function keptTime(): { step?: string; s?: number } {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '{}') as { step?: string; s?: number }
  } catch {
    return {}
  }
}
const kept = keptTime()
let clock = makeClock(undefined, kept.step === here.value ? (kept.s ?? 0) : 0)
const shown = ref(clock.spent())
const paused = ref(false)
function keepTime() {
  shown.value = clock.spent()
  try {
    localStorage.setItem(KEPT, JSON.stringify({ step: here.value, s: shown.value }))
  } catch {
    // A browser that keeps nothing loses seconds, no ticks.
  }
}
useIntervalFn(keepTime, 500)
if (!job.readonly) clock.run()
function pause() {
  if (clock.running()) clock.pause()
  else clock.run()
  paused.value = !clock.running()
  keepTime()
}
/** What a glance takes is not written down. */
const GLANCE_S = 5
function leaveStep() {
  const spent = clock.take()
  if (step.value && spent >= GLANCE_S) write(step.value, 'time', { spent_s: Math.round(spent) })
}
onBeforeUnmount(() => {
  keepTime()
  clock.pause()
})

const wake = useWakeLock()
void wake.request('screen').catch(() => undefined)
useEventListener(document, 'visibilitychange', () => {
  if (document.visibilityState === 'visible') void wake.request('screen').catch(() => undefined)
})

const note = ref<string | null>(null)
const main = ref<HTMLButtonElement>()

function show(key: string) {
  if (key === here.value) return
  leaveStep()
  here.value = key
  picked.value = null
  note.value = null
  void nextTick(() => main.value?.focus())
}
function back() {
  if (index.value > 0) show(steps.value[index.value - 1].key)
}
/** After the last step there is the whole card. */
const last = computed(() => index.value >= steps.value.length - 1)
function onward() {
  const next = steps.value[index.value + 1]
  if (next) return show(next.key)
  leaveStep()
  emit('close')
}
/** Ticks the step and goes on; one whose hold is not free stays. */
function advance() {
  const now = step.value
  if (!now) return
  if (now.state === 'done') return onward()
  if (now.held) return openIt()
  if (!job.readonly) write(now, 'done', { said: now.said, spent_s: Math.round(clock.take()) })
  onward()
}
function untick() {
  if (step.value) write(step.value, 'open')
}
function openIt() {
  const goal = step.value?.opens ?? step.value?.why
  if (goal) void go(goal)
}
async function go(goal: { stage: string; subject: string | null }) {
  leaveStep()
  emit('close')
  await router.push({ name: goal.stage, params: { id: job.id, subject: goal.subject ?? undefined } })
}
function addNote(text: string) {
  if (step.value && text.trim()) write(step.value, 'note', { text: text.trim().slice(0, 600) })
  note.value = null
  void nextTick(() => main.value?.focus())
}
function pick(cell: Cell) {
  picked.value = picked.value === cell.place ? null : cell.place
}

const ON = ['PageDown', 'ArrowRight', 'ArrowDown', ' ', 'Spacebar']
const BACK = ['PageUp', 'ArrowLeft', 'ArrowUp']
useKeys((event) => {
  const target = event.target as HTMLElement
  if (/^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) || event.ctrlKey || event.metaKey || event.altKey) return
  // A button in hand other than the large one does its own thing on space.
  const other = target.closest('button, a') && target !== main.value
  if (ON.includes(event.key) && !(event.key === ' ' && other)) advance()
  else if (BACK.includes(event.key)) back()
  else if (event.key.toLowerCase() === 'n') note.value = ''
  else if (event.key.toLowerCase() === 'p') pause()
  else return
  event.preventDefault()
}, overlay)
// Found and gone to from here: the card is left.
watch(
  () => route.fullPath,
  () => emit('close'),
)
watch(note, (open) => open === '' && void nextTick(() => document.querySelector<HTMLTextAreaElement>('#step-note')?.focus()))
</script>

<template>
  <Dialog :open="true" :initial-focus="main" class="relative z-50" @close="emit('close')">
    <div class="fixed inset-0 overflow-y-auto bg-paper">
      <DialogPanel class="flex min-h-full flex-col px-6 pt-3" data-testid="machine">
        <header class="flex flex-wrap items-center gap-x-4 gap-y-1">
          <button type="button" class="btn btn-bare" @click="emit('close')">‹ card</button>
          <h2 class="text-lg">{{ job.document?.name }}</h2>
          <span class="text-dim" data-testid="step-number">step {{ index + 1 }} of {{ steps.length }} · {{ step?.block }}</span>
          <span class="ml-auto num text-xl" data-testid="step-clock" :class="paused ? 'text-dim' : ''">
            {{ clockText((step?.spent_s ?? 0) + shown) }}
            <span class="text-dim">{{ step?.minutes == null ? '' : `of ${Math.round(step.minutes)} min` }}</span>
          </span>
          <button type="button" class="btn" :aria-pressed="paused" @click="pause">{{ paused ? 'time stands' : 'pause' }}</button>
        </header>
        <div class="relative mt-2 h-3 bg-shade" role="progressbar" :aria-valuenow="index" :aria-valuemax="steps.length" aria-label="Steps">
          <span
            v-for="(s, i) in steps"
            :key="s.key"
            class="absolute top-0 h-3"
            :class="s.state === 'done' ? 'bg-brass' : s.state === 'open' ? '' : 'bg-brick'"
            :style="{ left: share(i), width: share(1) }"
          />
          <span class="absolute -top-1 h-5 w-1 bg-ink" :style="{ left: share(index) }" />
        </div>
        <p class="mt-1 text-right text-brick">
          <template v-if="holdAhead">hold at {{ holdAhead.number }}: {{ holdAhead.text }}</template
          >&nbsp;
        </p>
        <div class="grid flex-1 gap-6" :class="cells.length ? 'min-[1000px]:grid-cols-[minmax(0,1fr)_26rem]' : ''">
          <article v-if="step" class="min-w-0">
            <p class="text-lg text-dim">{{ step.where }}</p>
            <p class="text-4xl leading-tight font-bold text-balance min-[1000px]:text-5xl" aria-live="polite" data-testid="step-text">
              {{ step.text }}
            </p>
            <p v-if="step.detail" class="mt-3 text-2xl leading-snug">{{ step.detail }}</p>
            <p v-for="c in step.cautions" :key="c" class="mt-3 border-l-4 border-brick bg-brick-soft px-4 py-2 text-xl" role="note">
              <span class="sr-only">Caution: </span>{{ c }}
            </p>
            <p v-if="step.hold" class="mt-3 border-l-4 border-brick px-4 py-2 text-xl font-bold text-brick" data-testid="step-hold">
              Hold. {{ step.hold }} <span v-if="step.held" class="block" data-testid="step-held">{{ step.held }}</span>
            </p>
            <p v-if="step.was" class="mt-3 border-l-4 border-brass px-4 py-2 text-lg" data-testid="step-was">
              Changed since it was ticked. It said: {{ step.was }}
            </p>
            <p v-if="oddity" class="mt-3 border-l-4 border-brick px-4 py-2 text-lg">{{ oddity }}</p>
            <div class="mt-4 flex flex-wrap items-center gap-2">
              <span class="border-2 border-edge px-3 py-2 text-lg">{{ step.tool ?? 'no tool' }}</span>
              <button type="button" class="btn" @click="go(step.why)">why: {{ step.why.text }}</button>
              <button v-if="step.opens && !step.held" type="button" class="btn" @click="openIt">do it on screen</button>
              <button v-if="step.state !== 'open' && !job.readonly" type="button" class="btn" @click="untick">not done after all</button>
            </div>
            <ul v-if="step.notes.length || step.photographs.length" class="mt-4 flex flex-wrap gap-3">
              <li v-for="p in step.photographs" :key="p.id">
                <img :src="ofJob(job.id, `attachments/${p.id}`)" :alt="p.name ?? 'photograph'" class="h-32 border border-line" />
              </li>
              <li v-for="n in step.notes" :key="n.id" class="self-end border-l-4 border-line px-3 py-1 text-lg">{{ n.text }}</li>
            </ul>
            <ol v-if="note === null" class="mt-6 border-t border-line pt-2" data-testid="following">
              <li v-for="(s, i) in following" :key="s.key" class="flex flex-wrap items-baseline gap-x-3 py-1 text-xl text-dim">
                <span class="w-14 shrink-0 text-base">{{ i === 0 ? 'next' : 'then' }}</span>
                <span class="min-w-0 flex-1">{{ s.text }}</span>
                <b v-if="s.tool">{{ s.tool }}</b>
              </li>
            </ol>
          </article>
          <aside v-if="cells.length" aria-label="Tray">
            <p class="mb-2 flex justify-between text-lg">
              <b>Tray</b><span class="text-dim">{{ card.view.value?.tray.out }} out · {{ card.view.value?.tray.back }} back</span>
            </p>
            <TrayPlace v-if="pickedCell" :cell="pickedCell" plain class="mb-2" @place="place(pickedCell!, $event)" />
            <TrayGrid :cells="cells" :marked="mine.map((c) => c.id)" @pick="pick" />
            <button type="button" class="btn mt-2 min-h-14" :disabled="job.readonly" @click="step && addPlace(step)">
              Another fastener came out
            </button>
          </aside>
        </div>
        <p v-if="pictures.failed.value" class="text-brick" role="alert">{{ pictures.failed.value }}</p>
        <p v-if="away || unsent" class="text-dim" role="status" data-testid="unsent">
          <template v-if="away">{{ AWAY }} Kept here: {{ unsent }} to send.</template>
          <template v-else>{{ unsent }} to send.</template>
        </p>
        <footer class="sticky bottom-0 mt-3 grid grid-cols-[1fr_1fr_1fr_2fr] gap-3 bg-paper pt-2 pb-4">
          <!-- With the buttons, so that nothing of it lies under them. -->
          <form v-if="note !== null" class="col-span-4" data-testid="note-form" @submit.prevent="addNote(note)">
            <label for="step-note" class="block text-dim">Note to this step</label>
            <textarea
              id="step-note"
              v-model="note"
              class="field min-h-16 text-xl"
              maxlength="600"
              @keydown.enter.exact.prevent="addNote(note)"
              @keydown.esc.stop.prevent="note = null"
            />
            <div class="mt-2 flex flex-wrap gap-2">
              <button v-for="q in card.view.value?.quick_notes" :key="q" type="button" class="btn min-h-14" @click="addNote(q)">
                {{ q }}
              </button>
              <button type="submit" class="btn btn-main min-h-14">Keep it</button>
            </div>
          </form>
          <button type="button" class="btn min-h-24 justify-center text-2xl" :disabled="index === 0" @click="back">back</button>
          <button type="button" class="btn min-h-24 justify-center text-2xl" :disabled="job.readonly" @click="note = ''">note</button>
          <label class="btn min-h-24 cursor-pointer justify-center text-2xl focus-within:outline-3">
            picture
            <input
              type="file"
              accept="image/jpeg,image/heic,.heic"
              capture="environment"
              class="sr-only"
              :disabled="job.readonly"
              data-testid="picture"
              @change="step && pictures.take($event, step.key)"
            />
          </label>
          <button ref="main" type="button" class="btn btn-main min-h-24 justify-center text-3xl" data-testid="advance" @click="advance">
            {{
              step?.state === 'done'
                ? last
                  ? 'to the card'
                  : 'next'
                : step?.held
                  ? step.opens
                    ? 'do it now'
                    : 'see what it waits for'
                  : last
                    ? 'done, to the card'
                    : 'done, next'
            }}
          </button>
        </footer>
      </DialogPanel>
      <FindAndKeys :overlay="overlay" />
    </div>
  </Dialog>
</template>
