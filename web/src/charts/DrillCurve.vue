<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, useTemplateRef } from 'vue'
import type { Schemas } from '../api/client'

/** Drills one after the other: how hard each was, solved or not, and where it put the player. */
const props = defineProps<{ points: Schemas['DrillPoint'][]; levels: Schemas['DrillList']['levels'] }>()
const emit = defineEmits<{ open: [id: string] }>()
const HEIGHT = 240
const LEFT = 132
const RIGHT = 20
const TOP = 12
const FOOT = 200
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
/** The last so many: more would be a smear. */
const shown = computed(() => props.points.slice(-60))
const x = computed(() => scaleLinear([0, Math.max(shown.value.length - 1, 1)], [LEFT + 12, Math.max(width.value - RIGHT, LEFT + 40)]))
const y = computed(() => scaleLinear([props.levels[0].from, props.levels.at(-1)!.to], [FOOT, TOP]).clamp(true))
const line = computed(() => shown.value.map((p, i) => `${i ? 'L' : 'M'}${x.value(i)} ${y.value(p.stands)}`).join(''))
const bands = computed(() => props.levels.map((l) => ({ label: `${l.level} ${l.label}`, from: y.value(l.from), to: y.value(l.to) })))
const said = (p: Schemas['DrillPoint']) => `${p.name}, ${p.solved ? 'solved' : 'not solved'}`
</script>

<template>
  <figure ref="box" class="min-w-0">
    <svg v-if="width" :width="width" :height="HEIGHT" role="group" :aria-label="`${points.length} drills; solved ones are full`">
      <g v-for="(b, i) in bands" :key="b.label" aria-hidden="true">
        <rect
          :x="LEFT"
          :y="b.to"
          :width="Math.max(width - LEFT - RIGHT + 10, 0)"
          :height="b.from - b.to"
          :fill="i % 2 ? 'transparent' : 'var(--shade)'"
          opacity="0.6"
        />
        <text :x="LEFT - 8" :y="(b.from + b.to) / 2 + 5" text-anchor="end" font-size="14" fill="var(--dim)">{{ b.label }}</text>
      </g>
      <path :d="line" fill="none" stroke="var(--brass)" stroke-width="3" stroke-linejoin="round" />
      <a
        v-for="(p, i) in shown"
        :key="p.id"
        role="button"
        tabindex="0"
        class="cursor-pointer"
        :aria-label="said(p)"
        @click="emit('open', p.id)"
        @keydown.enter.prevent="emit('open', p.id)"
      >
        <title>{{ said(p) }}</title>
        <circle :cx="x(i)" :cy="y(p.difficulty)" r="16" fill="transparent" />
        <circle
          :cx="x(i)"
          :cy="y(p.difficulty)"
          r="6"
          :fill="p.solved ? 'var(--moss)' : 'var(--leaf)'"
          :stroke="p.solved ? 'var(--moss)' : 'var(--brick)'"
          stroke-width="2.5"
        />
      </a>
      <text :x="LEFT" :y="HEIGHT - 10" font-size="14" fill="var(--dim)">
        full: solved · ring: not · line: what you solve every second time
      </text>
    </svg>
  </figure>
</template>
