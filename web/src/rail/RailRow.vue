<script setup lang="ts">
import { computed } from 'vue'
import type { Block } from './blocks'
import { leaders } from './leaders'
import { plain } from '../ui/format'
import { useWorking } from '../state/useWorking'
import { KINDS } from './patterns'

const props = defineProps<{
  blocks: Block[]
  scale: (amps: number) => number
  earned: number | null
  top: number
  height: number
  strong: boolean
  label: string
  /** Lanes below for names that do not hold in their block, and where the drawing ends. */
  lanes?: number
  far?: number
}>()
const working = useWorking()
const MARK = 9

const placed = computed(() => {
  let from = 0
  return props.blocks
    .filter((b) => (b.amps ?? 0) > 0)
    .map((b) => {
      const amps = b.amps as number
      const x = props.scale(from)
      const width = Math.max(props.scale(from + amps) - x, 2)
      from += amps
      return { ...b, amps, x, width, kind: KINDS[b.kind] }
    })
})
const spent = computed(() => placed.value.reduce((sum, b) => sum + b.amps, 0))

/** Width of a letter, about: names that hold in their block stand in it. */
const LETTER = 7.8
const LANE = 14
const holds = (b: { name: string; width: number }) => b.name.length * LETTER + 14 <= b.width
const inside = computed(() => placed.value.filter(holds))
/** Others keep their name below, with a line to it. */
const led = computed(() => {
  const told = placed.value.filter((b) => !holds(b)).map((b) => ({ id: b.id, name: b.name, at: b.x + b.width / 2 }))
  return leaders(told, props.lanes ?? 0, props.far ?? Infinity).map((l) => ({ ...l, y: props.top + props.height + 14 + l.lane * LANE }))
})

function tell(b: { part: string | null; name: string; amps: number; sigma?: number | null; duty: number; origin: string | null }) {
  const duty = b.duty === 1 ? '' : `, on ${Math.round(b.duty * 100)} % of the time`
  return `${b.part ?? b.name}: ${plain(b.amps, 2)} A${b.sigma ? ` ± ${plain(b.sigma, 2)}` : ''}${duty}; ${b.origin ?? 'origin unknown'}`
}
</script>

<template>
  <g :aria-label="label" role="group">
    <g
      v-for="b in placed"
      :key="b.id"
      class="rail-block cursor-pointer"
      tabindex="0"
      role="button"
      :aria-label="tell(b)"
      @click="working.open(b.id)"
      @keydown.enter="working.open(b.id)"
      @keydown.space.prevent="working.open(b.id)"
    >
      <title>{{ tell(b) }}</title>
      <rect :x="b.x" :y="top" :width="b.width" :height="height" :fill="b.kind.tone" stroke="var(--leaf)" stroke-width="1.5" />
      <rect :x="b.x + 1" :y="top + height - MARK" :width="Math.max(b.width - 2, 0)" :height="MARK - 1" :fill="b.kind.pattern" />
    </g>
    <template v-if="earned !== null">
      <rect
        v-if="spent > earned"
        class="pointer-events-none"
        :x="scale(earned)"
        :y="top - 2"
        :width="Math.max(scale(spent) - scale(earned), 1)"
        :height="height + 4"
        fill="url(#mark-owed)"
        stroke="var(--brick)"
        stroke-width="2"
      />
      <rect
        v-else
        :x="scale(spent)"
        :y="top"
        :width="Math.max(scale(earned) - scale(spent), 0)"
        :height="height"
        fill="var(--moss-soft)"
        stroke="var(--moss)"
        stroke-dasharray="5 4"
        stroke-width="1.5"
      />
    </template>
    <template v-if="strong">
      <text
        v-for="b in inside"
        :key="b.id"
        :x="b.x + 7"
        :y="top + 21"
        fill="var(--block-ink)"
        :stroke="b.kind.tone"
        stroke-width="5"
        stroke-linejoin="round"
        font-size="15"
        class="pointer-events-none [paint-order:stroke]"
        aria-hidden="true"
      >
        {{ b.name }}
      </text>
      <g v-for="b in led" :key="b.id" class="pointer-events-none" aria-hidden="true" data-testid="leader">
        <path :d="`M${b.at} ${top + height}V${b.y}`" stroke="var(--dim)" stroke-width="1" fill="none" />
        <text :x="b.from" :y="b.y" font-size="12.5" fill="var(--dim)">{{ b.said }}</text>
      </g>
    </template>
  </g>
</template>

<style scoped>
.rail-block:focus-visible rect:first-of-type {
  stroke: var(--ink);
  stroke-width: 3;
}
.rail-block:focus {
  outline: none;
}
.rail-block:hover rect:first-of-type {
  stroke: var(--ink);
}
</style>
