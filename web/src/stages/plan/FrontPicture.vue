<script setup lang="ts">
import { scaleLinear } from 'd3-scale'
import { computed } from 'vue'
import { useFrame } from '../../charts/useFrame'
import { colourOf, money, plain } from '../../ui/format'
import { radius, type Found } from './points'

/** Compromises between money and amps kept: touch a point to look at its plan. */
const props = defineProps<{ points: Found[]; chosen: string | null; letters: Record<string, string>; limit: number | null; axis: string }>()
defineEmits<{ pick: [key: string] }>()
const HEIGHT = 330
const LEFT = 52
const RIGHT = 34
const TOP = 34
const BOTTOM = 52
const dearest = computed(() => Math.max(...props.points.map((p) => p.cents), props.limit ?? 0, 100) * 1.06)
const { width, x, xTicks, foot } = useFrame({ height: HEIGHT, left: LEFT, right: RIGHT, top: TOP, bottom: BOTTOM }, dearest)
const kept = computed(() => props.points.map((p) => p.keeps.value ?? 0))
const y = computed(() => scaleLinear([Math.min(0, ...kept.value) - 0.4, Math.max(0.5, ...kept.value) + 0.4], [foot, TOP]).nice(5))
const longest = computed(() => Math.max(...props.points.map((p) => p.minutes), 1))
const path = computed(() => props.points.map((p, i) => `${i ? 'L' : 'M'}${x.value(p.cents)} ${y.value(p.keeps.value ?? 0)}`).join(''))
const least = (p: Found) => (p.missing.length ? 'at least ' : '')
/** To the right of a dot: its money may be more. */
const arrow = (fromX: number, atY: number) => `M${fromX} ${atY}h12m-5 -4l5 4l-5 4`
const words = (p: Found) =>
  `${least(p)}${money(p.cents)}, keeps ${plain(p.keeps.value ?? 0, 1)} A, ${p.minutes} minutes${p.key === props.chosen ? ', shown' : ''}`
</script>

<template>
  <figure ref="box" class="min-w-0" data-testid="front">
    <figcaption class="text-dim">{{ axis }}: kept, A</figcaption>
    <svg v-if="width" :width="width" :height="HEIGHT" role="group" :aria-label="`Money against amps kept, ${points.length} plans`">
      <rect
        v-if="y(0) < foot"
        :x="LEFT"
        :y="y(0)"
        :width="Math.max(0, width - RIGHT - LEFT)"
        :height="foot - y(0)"
        fill="var(--brick-soft)"
      />
      <g v-for="t in y.ticks(5)" :key="t">
        <path :d="`M${LEFT} ${y(t)}H${width - RIGHT}`" :stroke="t === 0 ? 'var(--edge)' : 'var(--line)'" />
        <text :x="LEFT - 8" :y="y(t) + 5" text-anchor="end" font-size="14" fill="var(--dim)" class="num">
          {{ plain(t, y.ticks(5).some((v) => v % 1) ? 1 : 0) }}
        </text>
      </g>
      <text v-for="t in xTicks" :key="`x${t}`" :x="x(t)" :y="foot + 20" text-anchor="middle" font-size="14" fill="var(--dim)" class="num">
        {{ plain(t / 100, 0) }}
      </text>
      <text :x="width - RIGHT" :y="HEIGHT - 8" text-anchor="end" font-size="14" fill="var(--dim)">
        {{
          points.some((p) => p.missing.length)
            ? 'money, parts and work; →: at least, more may come; dot: minutes'
            : 'money, parts and work; dot: minutes'
        }}
      </text>
      <g v-if="limit !== null">
        <path :d="`M${x(limit)} ${TOP - 14}V${foot}`" stroke="var(--brass)" stroke-width="2" stroke-dasharray="6 4" />
        <text :x="x(limit)" :y="TOP - 18" :text-anchor="x(limit) > width / 2 ? 'end' : 'start'" font-size="14" fill="var(--brass)">
          at most {{ money(limit) }}
        </text>
      </g>
      <path :d="path" fill="none" stroke="var(--led-line)" stroke-width="2" />
      <g
        v-for="p in points"
        :key="p.key"
        tabindex="0"
        role="button"
        class="cursor-pointer"
        :aria-label="words(p)"
        :aria-pressed="p.key === chosen"
        :data-plan="p.key"
        @click="$emit('pick', p.key)"
        @keydown.enter.prevent="$emit('pick', p.key)"
        @keydown.space.prevent.stop="$emit('pick', p.key)"
      >
        <!-- A finger in a glove finds it. -->
        <circle :cx="x(p.cents)" :cy="y(p.keeps.value ?? 0)" r="22" fill="transparent" />
        <circle
          :cx="x(p.cents)"
          :cy="y(p.keeps.value ?? 0)"
          :r="radius(p.minutes, longest)"
          :fill="p.key === chosen ? 'var(--brass)' : 'var(--led)'"
          :stroke="p.verdict === 'keeps' ? 'var(--ink)' : colourOf(p.verdict)"
          :stroke-width="p.verdict === 'keeps' ? 1.5 : 3"
        />
        <path
          v-if="p.missing.length"
          :d="arrow(x(p.cents) + radius(p.minutes, longest), y(p.keeps.value ?? 0))"
          fill="none"
          stroke="var(--brick)"
          stroke-width="2"
        />
        <text
          v-if="letters[p.key]"
          :x="x(p.cents)"
          :y="y(p.keeps.value ?? 0) + 5"
          text-anchor="middle"
          font-size="14"
          font-weight="700"
          :fill="p.key === chosen ? 'var(--on-brass)' : 'var(--block-ink)'"
        >
          {{ letters[p.key] }}
        </text>
      </g>
    </svg>
  </figure>
</template>
