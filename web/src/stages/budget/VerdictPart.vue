<script setup lang="ts">
import { useRouter } from 'vue-router'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ToneNote from '../../ui/ToneNote.vue'

/** What it all comes to, and the one next step. */
defineProps<{ verdict: Schemas['BudgetView']['verdict'] }>()
const job = useJob()
const router = useRouter()
const TONES = { keeps: 'good', owes: 'bad', too_close: 'doubt', unknown: 'plain' } as const

function go() {
  const next = job.ticket?.next
  if (next) void router.push({ name: next.stage, params: { id: job.id, subject: next.subject } })
}
</script>

<template>
  <section aria-label="Verdict">
    <ToneNote :tone="TONES[verdict.kind]" data-testid="verdict">
      <p class="text-lg font-bold">{{ verdict.headline }}</p>
      <p v-for="n in verdict.notes" :key="n">{{ n }}</p>
      <p v-if="verdict.break_even">{{ verdict.break_even }}</p>
    </ToneNote>
    <div v-if="job.ticket?.next" class="mt-2 border-l-4 border-dashed border-brass p-3" data-testid="next-reading">
      Next:
      <button type="button" class="min-h-8 font-bold text-brass underline underline-offset-4" @click="go">
        {{ job.ticket.next.text }}
      </button>
      <span v-if="job.ticket.next.why" class="block">{{ job.ticket.next.why }}</span>
    </div>
  </section>
</template>
