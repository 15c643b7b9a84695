<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../state/useJob'
import { valueAt } from '../state/valueAt'
import Sheet from '../ui/Sheet.vue'

const job = useJob()
const rows = computed(() =>
  job.queue.map((e) => ({
    at: e.at,
    mine: e.op === 'set' ? show(e.value) : e.op,
    theirs: show(valueAt(job.theirs?.document, e.at)),
  })),
)

function show(value: unknown): string {
  if (value === undefined || value === null) return 'nothing'
  return typeof value === 'object' ? JSON.stringify(value).slice(0, 80) : String(value)
}
</script>

<template>
  <Sheet
    :open="job.status === 'conflict' && job.theirs !== null"
    title="Somebody else changed this job first"
    wide
    @close="() => undefined"
  >
    <p class="mb-3">Nothing of yours is lost. Beside each other, what you entered and what stands there now:</p>
    <table class="sheet w-full" data-testid="conflict">
      <thead>
        <tr>
          <th>where</th>
          <th>yours</th>
          <th>theirs, saved</th>
        </tr>
      </thead>
      <tbody>
        <tr v-for="(r, i) in rows" :key="i">
          <td class="num text-sm break-all">{{ r.at }}</td>
          <td class="font-semibold">{{ r.mine }}</td>
          <td>{{ r.theirs }}</td>
        </tr>
      </tbody>
    </table>
    <div class="mt-4 flex flex-wrap gap-3">
      <button type="button" class="btn btn-main" @click="job.mineOnTop()">Put mine on top of theirs</button>
      <button type="button" class="btn" @click="job.keepTheirs()">Keep theirs, put mine aside</button>
    </div>
  </Sheet>
</template>
