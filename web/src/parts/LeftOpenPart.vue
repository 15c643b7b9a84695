<script setup lang="ts">
import { freshId, type Schemas } from '../api/client'
import { useJob } from '../state/useJob'

/** What is wrong or undecided as the machine leaves: mended, or answered for one by one. */
defineProps<{ points: Schemas['HandOverView']['left_open']; title?: string }>()
const job = useJob()

function answer(point: string, event: Event) {
  const reason = (event.target as HTMLInputElement).value.trim()
  const row = job.document?.left_open?.find((r) => r.point === point)
  if (row) job.set(`/left_open/${row.id}/reason`, reason || null)
  else if (reason) void job.edit([{ op: 'add', at: '/left_open', value: { id: freshId(), point, reason } }])
}
</script>

<template>
  <section aria-labelledby="open-head" data-testid="left-open">
    <h3 id="open-head" class="mb-1 text-lg font-bold">{{ title ?? 'Before it leaves' }}</h3>
    <p class="text-dim">Mend each, or say why it is left so: it is printed on the sheet.</p>
    <ul>
      <li v-for="p in points" :key="p.key" class="border-b border-line py-2">
        <label class="grid items-center gap-2 sm:grid-cols-[1fr_20rem]">
          <span :class="p.reason ? '' : 'font-semibold text-brick'">{{ p.text }}</span>
          <input
            class="field"
            maxlength="400"
            placeholder="why it is left so"
            :value="p.reason ?? ''"
            :data-point="p.key"
            @change="answer(p.key, $event)"
          />
        </label>
      </li>
    </ul>
  </section>
</template>
