<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { luxText, type frameOf } from './frame'

/** The figures on lines of equal light. */
defineProps<{ frame: ReturnType<typeof frameOf>; contours: Schemas['WallContour'][]; sign?: string }>()
</script>

<template>
  <text
    v-for="n in frame.labels(contours)"
    :key="n.level"
    :x="n.x"
    :y="n.y"
    text-anchor="middle"
    font-size="16"
    class="num"
    fill="var(--ink)"
    stroke="var(--leaf)"
    stroke-width="4"
    paint-order="stroke"
  >
    {{ sign }}{{ luxText(n.level) }}
  </text>
</template>
