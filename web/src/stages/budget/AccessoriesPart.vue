<script setup lang="ts">
import { computed } from 'vue'
import type { Figure } from '../../api/client'
import { useJob } from '../../state/useJob'
import FigureValue from '../../ui/FigureValue.vue'
import { plain } from '../../ui/format'

const job = useJob()
const rows = computed(() => job.budget!.accessories)
/** Owed amps are said in the word, not in a sign. */
const size = (figure: Figure): Figure => ({ ...figure, value: figure.value === null ? null : Math.abs(figure.value) })
const WORDS = { fits: 'fits', too_close: 'too close to call', does_not_fit: 'does not fit', unknown: 'unknown' }
const TONES = { fits: 'text-moss', too_close: 'text-brass', does_not_fit: 'text-brick', unknown: 'text-dim' }
</script>

<template>
  <section v-if="rows.length" aria-labelledby="buys-head">
    <h3 id="buys-head" class="mb-1 font-semibold text-dim">What the saving buys, in the owner’s order</h3>
    <table class="sheet w-full" data-testid="accessories">
      <tbody>
        <tr v-for="a in rows" :key="a.load_id">
          <td class="font-semibold">{{ a.name }}</td>
          <td class="r"><FigureValue :figure="a.amps" :name="a.name" /></td>
          <td :class="TONES[a.fits]">
            <span class="font-semibold">{{ WORDS[a.fits] }}</span>
            <span v-if="a.worst" class="block text-sm text-dim">
              {{ (a.worst.keeps.value ?? 0) < 0 ? 'owes' : 'keeps' }}
              <FigureValue :figure="size(a.worst.keeps)" :name="`Kept with ${a.name}`" sigma />, {{ a.worst.name.toLowerCase()
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
