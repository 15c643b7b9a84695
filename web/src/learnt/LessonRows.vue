<script setup lang="ts">
import type { Schemas } from '../api/client'
import { plain } from '../ui/format'

/** The jobs behind a figure. */
defineProps<{ rows: Schemas['Lesson'][]; unit: string; digits?: number }>()
</script>

<template>
  <details v-if="rows.length">
    <summary class="min-h-11 cursor-pointer py-2 text-dim">
      The {{ rows.length === 1 ? 'job' : `${rows.length} readings` }} behind it
    </summary>
    <table class="sheet w-full text-[0.95em]">
      <tbody>
        <tr v-for="(l, i) in rows" :key="i">
          <td class="num whitespace-nowrap">{{ l.on }}</td>
          <td>
            <RouterLink class="underline decoration-line underline-offset-4 hover:decoration-brass" :to="`/job/${l.job}`">{{
              l.name
            }}</RouterLink>
          </td>
          <td>{{ l.words }}</td>
          <td class="r num whitespace-nowrap">
            {{ l.value === null ? '' : plain(l.value, digits ?? 2)
            }}<template v-if="l.sigma"> ± {{ plain(l.sigma, digits ?? 2) }}</template>
            {{ unit }}
          </td>
          <td class="r num whitespace-nowrap text-dim">{{ l.claimed ? `of ${plain(l.claimed, digits ?? 2)}` : '' }}</td>
          <td>{{ l.note }}</td>
        </tr>
      </tbody>
    </table>
  </details>
</template>
