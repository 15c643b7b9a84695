<script setup lang="ts">
import type { Schemas } from '../api/client'

/** What a table would do, row by row, before it is taken in. */
defineProps<{ preview: Pick<Schemas['TablePreview'], 'rows' | 'good' | 'bad'>; busy: boolean }>()
defineEmits<{ take: [] }>()
const CHANGES = { add: 'adds it', replace: 'changes it', same: 'says the same' }
const MOST = 300
</script>

<template>
  <div class="mt-3">
    <p class="mb-2">
      <span class="num font-bold">{{ preview.good }}</span> rows good,
      <span class="num font-bold" :class="preview.bad ? 'text-brick' : ''">{{ preview.bad }}</span> bad. Nothing is taken in yet.
    </p>
    <div class="max-h-72 overflow-y-auto">
      <table class="sheet w-full text-sm" data-testid="csv-preview">
        <thead>
          <tr>
            <th>line</th>
            <th>what</th>
            <th>does</th>
            <th>wrong</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in preview.rows.slice(0, MOST)" :key="r.line" :class="r.errors.length ? 'bg-brick-soft' : ''">
            <td class="num">{{ r.line }}</td>
            <td>{{ r.name }}</td>
            <td>{{ CHANGES[r.change] }}</td>
            <td>
              <span v-for="e in r.errors" :key="e.field + e.message" class="block"
                >{{ e.field }}: {{ e.message }}. Accepted: {{ e.accepts }}.</span
              >
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <button type="button" class="btn btn-main mt-3" :disabled="busy || preview.good === 0" @click="$emit('take')">
      {{ preview.bad ? `Take in the ${preview.good} good rows, leave the bad out` : `Take in ${preview.good} rows` }}
    </button>
  </div>
</template>
