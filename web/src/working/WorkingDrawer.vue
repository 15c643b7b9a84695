<script setup lang="ts">
import { onKeyStroke } from '@vueuse/core'
import { computed, nextTick, ref, watch } from 'vue'
import { api } from '../api/client'
import { stageFor } from '../stages/registry'
import { useFetched } from '../state/useFetched'
import FailNote from '../ui/FailNote.vue'
import { figureText, plain } from '../ui/format'
import { useJob } from '../state/useJob'
import { useUnits } from '../state/useUnits'
import { useWorking } from '../state/useWorking'

const job = useJob()
const working = useWorking()
const units = useUnits()
const close = ref<HTMLButtonElement>()
let from: HTMLElement | null = null

const figure = computed(() => working.trail.at(-1))
const { data: shown, failed } = useFetched([figure, () => job.view?.revision], () =>
  figure.value ? api.GET('/api/jobs/{id}/working', { params: { path: { id: job.id }, query: { figure: figure.value } } }) : null,
)
/** The hand goes to the drawer when it opens, and back where it was. */
watch(figure, (now, before) => {
  if (now && !before) from = document.activeElement as HTMLElement | null
  if (now) return void nextTick(() => close.value?.focus())
  from?.focus()
  from = null
})
onKeyStroke('Escape', () => working.trail.length > 0 && working.close())

/** Below this a length is read with a caliper, m. */
const CALIPER_M = 0.1
const metres = (value: number) => (Math.abs(value) < CALIPER_M ? units.caliper(value) : units.length(value))
const heading = computed(() => {
  const figure = shown.value!.figure
  if (figure.unit !== 'm' || figure.value === null || figure.value === undefined) return figureText(figure)
  const { value, digits, unit } = metres(figure.value)
  return `${plain(value, digits)} ${unit}`
})
function number(value: number | null, unit: string): string {
  if (value === null) return 'unknown'
  if (unit === 'm') return plain(metres(value).value, metres(value).digits)
  const size = Math.abs(value)
  const digits = unit === 'rpm' || size >= 1000 ? 0 : size >= 100 ? 1 : size >= 1 ? 2 : 3
  return plain(value, digits)
}
</script>

<template>
  <aside
    v-if="working.trail.length > 0"
    class="no-print fixed top-0 right-0 z-40 flex h-full w-[26rem] max-w-full flex-col overflow-y-auto border-l-2 border-edge bg-leaf p-5"
    aria-label="Working"
    data-testid="working"
  >
    <div class="mb-3 flex items-center justify-between gap-2">
      <button v-if="working.trail.length > 1" type="button" class="btn" @click="working.back()">← back</button>
      <span v-else class="font-semibold text-dim">How it was reached</span>
      <button ref="close" type="button" class="btn btn-bare" aria-label="Close the working" @click="working.close()">✕</button>
    </div>
    <FailNote v-if="failed" :text="failed" />
    <template v-else-if="shown">
      <h2 class="text-xl">{{ shown.title }}</h2>
      <p class="num my-2 text-2xl font-bold">{{ heading }}</p>
      <p v-if="shown.formula" class="num border-y-2 border-line py-3 text-lg break-words">{{ shown.formula }}</p>
      <table v-if="shown.inputs.length" class="sheet mt-2 w-full text-sm">
        <tbody>
          <tr v-for="(i, n) in shown.inputs" :key="n">
            <td>
              <button
                v-if="i.ref"
                type="button"
                class="min-h-6 font-semibold text-brass underline underline-offset-4"
                @click="working.into(i.ref)"
              >
                {{ i.name }}
              </button>
              <RouterLink
                v-else-if="i.assumption"
                class="font-semibold underline underline-offset-4"
                :to="{ name: stageFor('settings'), params: { id: job.id }, hash: `#set-${i.assumption}` }"
                @click="working.close()"
                >{{ i.name }}</RouterLink
              >
              <span v-else>{{ i.name }}</span>
              <span v-if="i.assumption" class="ml-0.5 align-super text-[0.7em] text-brass" title="An assumption: a setting you can change"
                >◇</span
              >
              <span class="block text-dim">{{ i.origin }}</span>
            </td>
            <td class="r num whitespace-nowrap">
              {{ number(i.value, i.unit) }}
              <span class="unit">{{ i.unit === '1' ? '' : i.unit === 'm' && i.value !== null ? metres(i.value).unit : i.unit }}</span>
              <span v-if="i.sigma" class="block text-dim">± {{ number(i.sigma, i.unit) }}</span>
            </td>
          </tr>
        </tbody>
      </table>
      <p v-for="n in shown.notes" :key="n" class="mt-3">{{ n }}</p>
      <p v-if="shown.source" class="mt-3 text-dim">Source: {{ shown.source }}.</p>
      <p v-if="shown.inputs.some((i) => i.assumption)" class="mt-3 text-dim">◇ marks an assumption: touch it to change it for this job.</p>
    </template>
    <p v-else class="text-dim">Working it out …</p>
  </aside>
</template>
