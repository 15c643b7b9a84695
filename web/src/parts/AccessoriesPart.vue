<script setup lang="ts">
import type { Schemas } from '../api/client'
import { useReference } from '../state/useReference'
import FigureValue from '../ui/FigureValue.vue'
import { plain, signWord, sizeOf, toneOf } from '../ui/format'

/** Which wanted accessories the saving buys. */
defineProps<{ rows: Schemas['AccessoryView'][] }>()
const reference = useReference()
</script>

<template>
  <section v-if="rows.length" aria-labelledby="buys-head">
    <h3 id="buys-head" class="mb-1 font-semibold text-dim">What the saving buys, in the owner’s order</h3>
    <table class="sheet w-full" data-testid="accessories">
      <tbody>
        <tr v-for="a in rows" :key="a.load_id">
          <td class="font-semibold">{{ a.name }}</td>
          <td class="r"><FigureValue :figure="a.amps" :name="a.name" /></td>
          <td :class="toneOf(a.fits)">
            <span class="font-semibold">{{ reference.fit(a.fits) }}</span>
            <span v-if="a.worst" class="block text-sm text-dim">
              {{ signWord(a.worst.keeps) }}
              <FigureValue :figure="sizeOf(a.worst.keeps)" :name="`Kept with ${a.name}`" sigma />, {{ a.worst.name.toLowerCase()
              }}<template v-if="a.fits !== 'fits' && a.worst.above_rpm.value"
                >; fits above {{ plain(a.worst.above_rpm.value, 0) }} rpm</template
              >
            </span>
            <span v-else class="block text-sm text-dim">{{ a.reason }}</span>
          </td>
        </tr>
      </tbody>
    </table>
  </section>
</template>
