<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, useTemplateRef } from 'vue'
import type { Schemas } from '../api/client'
import { plain } from '../ui/format'

/** Copies of one thing as they were read, beside what was claimed; touched, a dot opens the job behind it. */
const props = defineProps<{
  lessons: Schemas['Lesson'][]
  mean: number | null
  sigma: number | null
  claimed?: number | null
  unit: string
  label: string
}>()
const emit = defineEmits<{ open: [job: string] }>()
const HEIGHT = 96
const LEFT = 30
const RIGHT = 30
const LINE = 52
const box = useTemplateRef<HTMLElement>('box')
const { width } = useElementSize(box)
const read = computed(() => props.lessons.filter((l): l is Schemas['Lesson'] & { value: number } => l.value !== null))
const x = computed(() => {
  const ends = [...read.value.map((l) => l.value), props.mean ?? 0, props.claimed ?? props.mean ?? 0]
  if (props.mean !== null && props.sigma) ends.push(props.mean - props.sigma, props.mean + props.sigma)
  const [low, high] = [Math.min(...ends), Math.max(...ends)]
  const room = Math.max((high - low) * 0.12, high * 0.03, 0.01)
  return scaleLinear([Math.max(0, low - room), high + room], [LEFT, Math.max(width.value - RIGHT, LEFT + 20)])
})
/** Dots that would lie on one another stand in layers. */
const dots = computed(() => {
  const layers: number[] = []
  return [...read.value]
    .sort((a, b) => a.value - b.value)
    .map((l) => {
      const at = x.value(l.value)
      let layer = layers.findIndex((last) => at - last >= 11)
      if (layer < 0) layer = layers.length
      layers[layer] = at
      return { lesson: l, at, y: LINE - 8 - Math.min(layer, 4) * 8 }
    })
})
const said = (l: Schemas['Lesson']) => `${plain(l.value!, 2)} ${props.unit}, ${l.words ?? ''}, ${l.name ?? ''} ${l.on}`
</script>

<template>
  <figure ref="box" class="min-w-0">
    <svg v-if="width && read.length" :width="width" :height="HEIGHT" role="group" :aria-label="`${label}: ${read.length} read`">
      <path :d="`M${LEFT} ${LINE}H${width - RIGHT}`" stroke="var(--edge)" stroke-width="1.5" />
      <g v-for="t in x.ticks(Math.max(3, Math.floor(width / 120)))" :key="t" aria-hidden="true">
        <path :d="`M${x(t)} ${LINE}v5`" stroke="var(--edge)" stroke-width="1.5" />
        <text :x="x(t)" :y="LINE + 20" text-anchor="middle" font-size="14" fill="var(--dim)" class="num">{{ plain(t, 2) }}</text>
      </g>
      <template v-if="mean !== null">
        <rect
          v-if="sigma"
          :x="x(mean - sigma)"
          :y="LINE - 4"
          :width="Math.max(2, x(mean + sigma) - x(mean - sigma))"
          height="8"
          fill="var(--led-line)"
          opacity="0.3"
        />
        <path :d="`M${x(mean)} ${LINE - 10}v20`" stroke="var(--led-line)" stroke-width="3" />
      </template>
      <template v-if="claimed">
        <path :d="`M${x(claimed)} ${LINE - 42}V${LINE + 8}`" stroke="var(--brass)" stroke-width="2" stroke-dasharray="2 4" />
        <text
          :x="x(claimed)"
          :y="LINE + 40"
          :text-anchor="x(claimed) > width - 60 ? 'end' : x(claimed) < 60 ? 'start' : 'middle'"
          font-size="14"
          fill="var(--brass)"
        >
          claimed
        </text>
      </template>
      <a
        v-for="(d, i) in dots"
        :key="i"
        role="button"
        tabindex="0"
        class="cursor-pointer"
        :aria-label="said(d.lesson)"
        @click="d.lesson.job && emit('open', d.lesson.job)"
        @keydown.enter.prevent="d.lesson.job && emit('open', d.lesson.job)"
      >
        <title>{{ said(d.lesson) }}</title>
        <circle :cx="d.at" :cy="d.y" r="14" fill="transparent" />
        <circle :cx="d.at" :cy="d.y" r="5" fill="var(--leaf)" stroke="var(--led-line)" stroke-width="2.5" />
      </a>
    </svg>
  </figure>
</template>
