<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { frameOf, WIDTH } from './frame'
import LevelFigures from './LevelFigures.vue'

/** After less before: more light in amber within full lines, less in blue within dashed ones. */
const props = defineProps<{ difference: Schemas['WallDifference']; cutoff: number | null }>()
const frame = computed(() => frameOf(props.difference))
const sides = computed(() => [
  { key: 'more', contours: props.difference.more, fill: 'var(--filament)', line: 'var(--filament-line)', dash: undefined, sign: '+' },
  { key: 'less', contours: props.difference.less, fill: 'var(--led)', line: 'var(--led-line)', dash: '6 4', sign: '−' },
])
const PAD = 12
</script>

<template>
  <figure data-testid="difference">
    <svg
      :viewBox="`${-PAD} ${-PAD} ${WIDTH + 2 * PAD} ${frame.height + 2 * PAD}`"
      class="block w-full border border-line bg-leaf"
      role="img"
      aria-label="Light on the wall, after less before"
    >
      <g v-for="s in sides" :key="s.key">
        <path
          v-for="c in s.contours"
          :key="c.level"
          :d="frame.path(c.rings)"
          :fill="s.fill"
          fill-opacity="0.25"
          fill-rule="evenodd"
          :stroke="s.line"
          stroke-width="1.5"
          :stroke-dasharray="s.dash"
        />
      </g>
      <path :d="`M${WIDTH / 2} ${-PAD}V${frame.height + PAD}`" stroke="var(--edge)" stroke-width="1.5" stroke-dasharray="3 5" />
      <path
        v-if="cutoff !== null"
        :d="`M${-PAD} ${frame.y(cutoff)}H${WIDTH + PAD}`"
        stroke="var(--brick)"
        stroke-width="3"
        stroke-dasharray="12 6"
      />
      <LevelFigures v-for="s in sides" :key="`n-${s.key}`" :frame="frame" :contours="s.contours" :sign="s.sign" />
    </svg>
    <figcaption class="mt-1 text-dim">
      Lux more (amber, full lines) and less (blue, dashed) than before. Brick: the cut-off; light above it blinds.
    </figcaption>
  </figure>
</template>
