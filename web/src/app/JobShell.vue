<script setup lang="ts">
import { computed, nextTick, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import AmpRail from '../rail/AmpRail.vue'
import type { Want } from '../api/client'
import { useJob } from '../state/useJob'
import { useWorking } from '../state/useWorking'
import SaveMark from '../ui/SaveMark.vue'
import WorkingDrawer from '../working/WorkingDrawer.vue'
import AsideNote from './AsideNote.vue'
import ConflictSheet from './ConflictSheet.vue'
import PastBar from './PastBar.vue'
import WhoIsHere from './WhoIsHere.vue'
import { stageFor } from '../stages/registry'
import { groupsOf, stageAtDigit, stageBeside } from './stageKeys'
import { useReference } from '../state/useReference'
import StageMark from '../ui/StageMark.vue'
import { useKeys } from '../ui/overlays'

const route = useRoute()
const router = useRouter()
const job = useJob()
const working = useWorking()
const reference = useReference()

watch(
  () => route.params.id as string,
  (id) => {
    working.close()
    void job.open(id)
  },
  { immediate: true },
)
watch(
  () => job.document?.name,
  (name) => (document.title = name ? `${name} · Miser` : 'Miser'),
)
// On a narrow window the stages scroll sideways: the one looked at is never out of sight.
watch(
  () => [route.name, job.view !== null],
  () => document.querySelector('nav [aria-current=page]')?.scrollIntoView({ inline: 'center', block: 'nearest' }),
  { flush: 'post', immediate: true },
)
const stages = computed(() => job.ticket?.stages ?? [])
const here = computed(() => stages.value.find((s) => s.stage === route.name))
const wantedHere = computed(() => (job.ticket?.wants ?? []).filter((w) => w.stage === route.name))
const groups = computed(() => groupsOf(stages.value))
const groupName = (key: string) => reference.tables?.stage_groups[key] ?? ''
/** The digit of a group stands at its first stage. */
const digitAt = (i: number) =>
  i === 0 || stages.value[i].group !== stages.value[i - 1].group ? groups.value.indexOf(stages.value[i].group) + 1 : 0

function to(stage: string) {
  void router.push({ name: stage, params: { id: job.id } })
}

/** What there is to touch at a place of the document: a field of it, else the stage's first. */
function handAt(at: string): HTMLElement | null {
  const place = CSS.escape(at)
  return (
    document.querySelector<HTMLElement>(`[data-at="${place}"], [data-at^="${place}/"]`) ??
    document.querySelector<HTMLElement>('[data-hand] input, [data-hand] button, main input, main select, main button')
  )
}

/** Goes to what is wanted and puts the hand on it, as soon as the stage has it. */
async function goTo(want: Pick<Want, 'stage' | 'at' | 'subject'>) {
  await router.push({ name: want.stage, params: { id: job.id, subject: want.subject } })
  const give = performance.now() + FIELD_MS
  const reach = () => {
    const field = handAt(want.at)
    if (!field?.dataset.at && performance.now() < give) return void requestAnimationFrame(reach)
    field?.scrollIntoView({ block: 'center' })
    field?.focus()
  }
  requestAnimationFrame(reach)
}
const strip = ref<HTMLElement>()
/** On a narrow window the stage in hand is scrolled into its strip. */
watch(
  [() => route.name, () => job.view === null],
  async () => {
    await nextTick()
    const here = strip.value?.querySelector<HTMLElement>('[aria-current=page]')
    if (here && strip.value) strip.value.scrollLeft = here.offsetLeft - (strip.value.clientWidth - here.offsetWidth) / 2
  },
  { immediate: true },
)
/** How long a stage may take to show a field. */
const FIELD_MS = 400

/** The one next step: the same on the board, on the strip, in the sheet. */
function goNext() {
  if (job.ticket?.next) void goTo(job.ticket.next)
}

useKeys((event) => {
  const target = event.target as HTMLElement
  const inField = /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName) && (target as HTMLInputElement).type !== 'range'
  if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'z' && !inField) {
    event.preventDefault()
    void job.act(event.shiftKey ? 'redo' : 'undo')
    return
  }
  if (inField || event.ctrlKey || event.metaKey || event.altKey) return
  const stage = /^[1-9]$/.test(event.key) ? stageAtDigit(stages.value, Number(event.key), String(route.name)) : sideways(event)
  if (stage) {
    event.preventDefault()
    to(stage)
  } else if (event.key.toLowerCase() === 'n') goNext()
  else if (event.key.toLowerCase() === 'h') void router.push({ name: 'history', params: { id: job.id } })
  else if (event.key.toLowerCase() === 'b') job.side = job.side === 'after' ? 'before' : 'after'
  else if (event.key.toLowerCase() === 'r') {
    event.preventDefault()
    const stage = stageFor('reading')
    void goTo(job.ticket?.wants.find((w) => w.stage === stage) ?? { stage, at: '' })
  }
})

/** Arrows lead to the stage before and after, as long as nothing else is in hand that they move. */
function sideways(event: KeyboardEvent): string | null {
  const steps = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  const free = event.target === document.body || (event.target as HTMLElement).matches('main, nav a')
  return steps && free && !event.defaultPrevented ? stageBeside(stages.value, String(route.name), steps) : null
}

function find() {
  window.dispatchEvent(new Event('miser:find'))
}
function keys() {
  window.dispatchEvent(new Event('miser:keys'))
}
</script>

<template>
  <p v-if="job.gone" class="no-print flex flex-wrap items-center gap-3 bg-brick-soft px-5 py-2" role="alert">
    {{ job.failed }} What you typed stays here.
    <button type="button" class="btn" @click="job.bringBack()">Bring it back</button>
  </p>
  <div v-if="job.failed && !job.view" class="mx-auto max-w-xl p-10">
    <h1 class="text-2xl">{{ job.failed }}</h1>
    <p class="my-4">What was saved is safe. What was typed and not saved is kept in this browser.</p>
    <div class="flex gap-3">
      <button type="button" class="btn btn-main" @click="job.open(route.params.id as string)">Try again</button>
      <RouterLink class="btn" to="/">To the bay board</RouterLink>
    </div>
  </div>
  <div v-else-if="!job.view" class="p-10 text-lg text-dim" role="status">Opening the ticket …</div>
  <div v-else class="flex min-h-screen max-[900px]:flex-col">
    <nav
      class="no-print flex w-[13.5rem] min-w-0 shrink-0 flex-col border-r border-line max-[900px]:w-full max-[900px]:border-r-0 max-[900px]:border-b min-[901px]:sticky min-[901px]:top-0 min-[901px]:h-screen"
      aria-label="Ticket"
    >
      <div class="flex items-start gap-2 px-4 pt-4 pb-3 max-[900px]:pt-2 max-[900px]:pb-1">
        <div class="min-w-0 flex-1">
          <RouterLink to="/" class="flex min-h-7 items-center text-sm font-semibold text-brass underline underline-offset-4"
            >‹ bay board</RouterLink
          >
          <h1 class="text-xl leading-tight break-words">{{ job.document?.name }}</h1>
          <WhoIsHere :job="job.id" :stages="stages" />
          <p class="text-sm text-dim max-[900px]:hidden">{{ [job.document?.bay, job.document?.fleet].filter(Boolean).join(' · ') }}</p>
        </div>
        <div class="hidden items-center gap-1 max-[900px]:flex">
          <SaveMark />
          <button type="button" class="btn btn-bare" aria-label="Undo" :disabled="!job.view.can_undo" @click="job.act('undo')">↶</button>
          <button type="button" class="btn btn-bare" aria-label="Redo" :disabled="!job.view.can_redo" @click="job.act('redo')">↷</button>
          <button type="button" class="btn btn-bare" aria-label="Find" @click="find"><span class="kbd">/</span></button>
          <RouterLink class="btn btn-bare px-1" :to="{ name: 'history', params: { id: job.id } }">history</RouterLink>
        </div>
      </div>
      <ul
        ref="strip"
        class="relative flex flex-col min-[901px]:min-h-0 min-[901px]:overflow-y-auto max-[900px]:w-full max-[900px]:flex-row max-[900px]:overflow-x-auto"
      >
        <li
          v-for="(s, i) in stages"
          :key="s.stage"
          class="max-[900px]:shrink-0"
          :class="digitAt(i) > 1 ? 'border-line min-[901px]:border-t max-[900px]:border-l' : ''"
        >
          <RouterLink
            :to="{ name: s.stage, params: { id: job.id } }"
            class="flex min-h-10 items-center gap-3 border-l-4 px-4 max-[900px]:min-h-11 max-[900px]:border-b-4 max-[900px]:border-l-0 max-[900px]:px-3"
            :class="route.name === s.stage ? 'border-brass bg-shade font-bold' : 'border-transparent hover:bg-shade'"
            :aria-current="route.name === s.stage ? 'page' : undefined"
          >
            <StageMark :state="s.state" :class="s.state === 'stale' ? 'text-brick' : 'text-dim'" />
            <span class="flex-1 leading-tight" :class="s.needed === false ? 'text-dim' : ''">
              {{ s.label }}<span v-if="s.needed === false" class="sr-only">, nothing for it on this machine</span
              ><span class="sr-only">, {{ reference.tables?.stage_states[s.state] }}</span>
              <span v-if="s.missing" class="block text-sm font-normal text-dim max-[900px]:hidden">{{ s.missing }} to do</span>
            </span>
            <span v-if="digitAt(i)" class="text-sm font-normal text-dim max-[900px]:hidden" aria-hidden="true"
              ><template v-if="groupName(s.group) !== s.label">{{ groupName(s.group).toLowerCase() }} </template
              ><span class="kbd ml-1.5">{{ digitAt(i) }}</span></span
            >
          </RouterLink>
        </li>
      </ul>
      <div class="mt-auto shrink-0 border-t border-line px-3 py-1 max-[900px]:hidden">
        <div class="flex items-center gap-1">
          <button
            type="button"
            class="btn btn-bare"
            aria-label="Undo"
            title="Undo (Ctrl Z)"
            :disabled="!job.view.can_undo"
            @click="job.act('undo')"
          >
            ↶
          </button>
          <button
            type="button"
            class="btn btn-bare"
            aria-label="Redo"
            title="Redo (Ctrl Shift Z)"
            :disabled="!job.view.can_redo"
            @click="job.act('redo')"
          >
            ↷
          </button>
          <button type="button" class="btn btn-bare px-1" @click="find"><span class="kbd">/</span>find</button>
        </div>
        <div class="flex items-center justify-between">
          <SaveMark class="px-2" /><RouterLink class="btn btn-bare px-1" :to="{ name: 'history', params: { id: job.id } }"
            >history</RouterLink
          ><button type="button" class="btn btn-bare px-1" aria-label="Keys" @click="keys">
            <span class="kbd">?</span>
          </button>
        </div>
      </div>
    </nav>
    <div class="flex min-w-0 flex-1 flex-col">
      <PastBar />
      <AmpRail class="no-print sticky top-0 z-20 max-[900px]:static" />
      <p v-if="job.rail?.refused" class="no-print bg-brick-soft px-5 py-2 font-bold text-brick" role="alert" data-testid="refused">
        {{ job.rail.refused }}
      </p>
      <p v-if="job.message" class="no-print bg-brick-soft px-5 py-2" role="alert">{{ job.message }}</p>
      <p v-if="job.unkept && job.status !== 'saved'" class="no-print bg-brick-soft px-5 py-2" role="alert">
        This browser keeps nothing (its storage is full or forbidden): what is not saved yet is lost if the window closes.
      </p>
      <p v-if="job.removed" class="no-print flex items-center gap-3 bg-shade px-5 py-1" role="status" data-testid="removed">
        {{ job.removed }} was taken out.
        <button type="button" class="btn" @click="job.act('undo')">Bring it back</button>
      </p>
      <AsideNote />
      <main id="main" tabindex="-1" class="min-w-0 flex-1 px-5 pt-4 pb-10 outline-none">
        <div
          v-if="here && (wantedHere.length > 0 || job.ticket?.next)"
          class="no-print mb-4 flex flex-wrap items-center gap-x-3 gap-y-1 border-l-4 border-brass bg-brass-soft px-3 py-1"
          data-testid="missing"
        >
          <template v-if="wantedHere.length > 0">
            <span class="font-semibold">To finish {{ here.label }}:</span>
            <button
              v-for="w in wantedHere"
              :key="w.at + w.text"
              type="button"
              class="min-h-11 underline underline-offset-4"
              @click="goTo(w)"
            >
              {{ w.text }}
            </button>
            <span v-if="here.missing > wantedHere.length" class="text-dim">and {{ here.missing - wantedHere.length }} more</span>
          </template>
          <button
            v-if="job.ticket?.next"
            type="button"
            class="btn btn-bare ml-auto text-sm"
            :title="job.ticket.next.why"
            data-testid="next-step"
            @click="goNext"
          >
            next: {{ job.ticket.next.text }} <span class="kbd">N</span>
          </button>
        </div>
        <RouterView />
      </main>
    </div>
    <WorkingDrawer />
    <ConflictSheet />
  </div>
</template>
