<script setup lang="ts">
import { computed, ref, useId } from 'vue'
import { useEditor } from '../state/useEditor'
import { useUnits } from '../state/useUnits'
import FieldShell from './FieldShell.vue'

const props = defineProps<{
  at: string
  label: string
  unit: string
  step?: number
  hideLabel?: boolean
  help?: string
  big?: boolean
  placeholder?: string
  /** Where the value shown and sent is another than kept: money in cents. */
  cents?: boolean
  /** A small length: millimetres or inches. */
  small?: boolean
}>()
const job = useEditor()
const units = useUnits()
const id = useId()
const focused = ref(false)

const other = computed(() => units.shown(props.unit, props.small))
/** Steps are given as metric fields show them: of a small length in millimetres. */
const by = computed(() => {
  const step = props.step ?? 0.1
  if (!other.value || props.unit !== 'm') return step
  return Number(other.value.show(props.small ? step / 1000 : step).toPrecision(1))
})
const kept = computed(() => job.at(props.at))
/** As it was typed last: 1.80 stays 1.80 while it is what is kept. */
const said = ref('')
const same = computed(() => said.value !== '' && Number(said.value.replace(',', '.')) === Number(show(kept.value)))
const text = computed(() => job.drafts[props.at] ?? (same.value ? said.value : show(kept.value)))
const wrong = computed(() => (job.errors[props.at] && !focused.value) || job.problems[props.at]?.level === 'problem')

function show(value: unknown): string {
  if (typeof value !== 'number') return ''
  if (other.value) return String(Number(other.value.show(value).toFixed(props.small ? 3 : 1)))
  return props.cents ? (value / 100).toFixed(2) : String(Number(value.toPrecision(8)))
}

function typed(event: Event) {
  enter((event.target as HTMLInputElement).value)
}
/** A bare number means what the field shows. */
function enter(entered: string) {
  said.value = entered
  job.type(props.at, entered, other.value && units.bare(entered) ? `${entered} ${other.value.suffix}` : entered)
}

function nudge(event: KeyboardEvent, direction: number) {
  const number = Number(text.value.replace(',', '.'))
  if (!Number.isFinite(number) || text.value === '') return
  event.preventDefault()
  enter(String(Number(Math.max(0, number + direction * by.value).toPrecision(8))))
}
</script>

<template>
  <FieldShell :id="id" :at="at" :label="label" :hide-label="hideLabel" :help="help">
    <div class="relative">
      <input
        :id="id"
        class="field num"
        :class="[big ? 'h-16 text-3xl' : '', unit ? 'pr-12' : '']"
        :value="text"
        :placeholder="placeholder"
        inputmode="decimal"
        autocomplete="off"
        spellcheck="false"
        :data-at="at"
        :aria-invalid="wrong ? 'true' : undefined"
        :aria-describedby="wrong ? `${id}-wrong` : undefined"
        @input="typed"
        @focus="focused = true"
        @blur="focused = false"
        @keydown.up="nudge($event, 1)"
        @keydown.down="nudge($event, -1)"
      />
      <span v-if="unit" class="unit pointer-events-none absolute top-1/2 right-3 -translate-y-1/2" :class="big ? 'text-xl' : ''">{{
        other?.unit ?? unit
      }}</span>
    </div>
  </FieldShell>
</template>
