<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import FigureValue from '../../ui/FigureValue.vue'
import { digitsFor, plain } from '../../ui/format'

const props = defineProps<{ figures: Schemas['WallFigures'] }>()
/** Where the marks end before the light does, a size is at least so much. */
const least = (key: string) => (props.figures.at_least.includes(key) ? 'at least ' : '')
/** A place is said by its side, not by a sign. */
const places = computed(() =>
  (
    [
      ['centroid_x', 'left', 'right'],
      ['centroid_y', 'down', 'up'],
    ] as const
  ).map(([key, below, above]) => {
    const figure = props.figures[key]
    return { key, figure: { ...figure, value: Math.abs(figure.value ?? 0) }, side: (figure.value ?? 0) < 0 ? below : above }
  }),
)
</script>

<template>
  <dl class="mt-2 grid grid-cols-[auto_1fr] gap-x-4">
    <dt class="text-dim">peak</dt>
    <dd>
      <span class="num">{{ plain(figures.peak_lux, digitsFor('lx', figures.peak_lux)) }}</span> lx,
      <FigureValue :figure="figures.candela" name="Candela" sigma />
    </dd>
    <dt class="text-dim">on the wall</dt>
    <dd><FigureValue :figure="figures.lumens" name="Light on the wall" sigma /><template v-if="figures.relative">, relative</template></dd>
    <template v-if="figures.glare.value !== null">
      <dt class="text-dim">above the cut-off</dt>
      <dd class="font-bold" :class="figures.glaring ? 'text-brick' : ''">
        <FigureValue :figure="figures.glare" name="Share above the cut-off" percent :places="0" sigma />
      </dd>
    </template>
    <dt class="text-dim">half of peak</dt>
    <dd>
      {{ least('half_w') }}<FigureValue :figure="figures.half_w" name="Width at half" sigma /> × {{ least('half_h')
      }}<FigureValue :figure="figures.half_h" name="Height at half" sigma />
    </dd>
    <dt class="text-dim">tenth of peak</dt>
    <dd>
      {{ least('tenth_w') }}<FigureValue :figure="figures.tenth_w" name="Width at a tenth" sigma /> × {{ least('tenth_h')
      }}<FigureValue :figure="figures.tenth_h" name="Height at a tenth" sigma />
    </dd>
    <dt class="text-dim">balances at</dt>
    <dd>
      <template v-for="(p, i) in places" :key="p.key"
        >{{ i ? ', ' : '' }}<FigureValue :figure="p.figure" name="Where the light balances" /> {{ p.side }}</template
      >
    </dd>
    <template v-if="figures.advice">
      <dt class="text-dim">to tell more</dt>
      <dd data-testid="wall-advice">{{ figures.advice }}</dd>
    </template>
    <template v-if="figures.missing">
      <dt class="text-dim">not read</dt>
      <dd>
        <span class="num">{{ figures.missing }}</span> marks, taken from their neighbours
      </dd>
    </template>
  </dl>
</template>
