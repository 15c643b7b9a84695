<script setup lang="ts">
import { computed } from 'vue'
import type { Figure } from '../api/client'
import { useReference } from '../state/useReference'
import { useUnits } from '../state/useUnits'
import { useWorking } from '../state/useWorking'
import { digitsFor, figureText, plain, span } from './format'

const props = defineProps<{
  figure: Figure
  name: string
  fine?: boolean
  sigma?: boolean
  sign?: boolean
  bare?: boolean
  percent?: boolean
  /** Decimals of a percentage. */
  places?: number
  why?: boolean
  /** A small length: millimetres or inches. */
  small?: boolean
}>()
const working = useWorking()
const units = useUnits()
const reference = useReference()

const known = computed(() => props.figure.value !== null && props.figure.value !== undefined)
const shown = computed((): { value: string; unit: string; digits?: number; scale?: number } => {
  const value = props.figure.value as number
  if (props.figure.unit === 'h') return span(value)
  if (props.percent) return { value: plain(value * 100, props.places ?? 2), unit: '%' }
  if (props.figure.unit === 'm') {
    const length = props.small ? units.caliper(value) : units.length(value)
    return {
      value: (props.sign && value > 0 ? '+' : '') + plain(length.value, length.digits),
      unit: length.unit,
      digits: length.digits,
      scale: length.value / value,
    }
  }
  const digits = digitsFor(props.figure.unit, value, props.fine)
  return { value: (props.sign && value > 0 ? '+' : '') + plain(value, digits), unit: props.figure.unit === '1' ? '' : props.figure.unit }
})
const doubt = computed(() => {
  const sigma = props.figure.sigma
  if (!props.sigma || !sigma || !known.value) return ''
  if (props.percent) return plain(sigma * 100, props.places ?? 2)
  // In the unit that its value is shown in, whatever its own size.
  if (shown.value.scale) return plain(sigma * shown.value.scale, shown.value.digits ?? 2)
  return plain(
    sigma,
    Math.max(digitsFor(props.figure.unit, props.figure.value as number, props.fine), sigma < 0.05 && props.figure.unit === 'A' ? 2 : 0),
  )
})
const text = computed(() =>
  known.value && props.figure.unit === 'm' ? `${shown.value.value} ${shown.value.unit}` : figureText(props.figure),
)
const label = computed(() => `${props.name}: ${text.value}${props.figure.assumed ? ', rests on an assumption' : ''}. Show the working`)
</script>

<template>
  <component
    :is="figure.id ? 'button' : 'span'"
    :type="figure.id ? 'button' : undefined"
    class="figure inline-flex min-h-6 items-baseline whitespace-nowrap"
    :class="figure.id ? 'underline decoration-line decoration-dotted underline-offset-4 hover:decoration-brass' : ''"
    :aria-label="figure.id ? label : undefined"
    :title="figure.reason ?? (figure.assumed ? reference.tables?.terms['◇'] : undefined)"
    @click="figure.id && working.open(figure.id)"
  >
    <template v-if="known">
      <span class="num">{{ shown.value }}</span>
      <span v-if="doubt" class="num unit ml-1.5 text-[0.75em]" :title="reference.tables?.terms['±']">±&thinsp;{{ doubt }}</span>
      <span v-if="!bare && shown.unit" class="unit ml-1 text-[0.8em]">{{ shown.unit }}</span>
      <span v-if="figure.assumed" class="ml-0.5 align-super text-[0.6em] text-brass" aria-hidden="true">◇</span>
    </template>
    <span v-else class="text-dim"
      >unknown<template v-if="why && figure.reason">: {{ figure.reason }}</template></span
    >
  </component>
</template>
