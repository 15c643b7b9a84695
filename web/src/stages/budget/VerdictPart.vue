<script setup lang="ts">
import { computed } from 'vue'
import { useRouter } from 'vue-router'
import { useJob } from '../../state/useJob'
import { useRail } from '../../rail/useRail'
import { plain } from '../../ui/format'

const job = useJob()
const rail = useRail()
const router = useRouter()
const budget = computed(() => job.budget!)
const lines = computed(() =>
  budget.value.scenarios
    .filter((s) => s.engine === 'running')
    .flatMap((s) => s.lines.filter((l) => l.side === 'after').map((l) => ({ ...l, name: s.name }))),
)
const owes = computed(() => lines.value.filter((l) => l.verdict === 'owes'))
const close = computed(() => lines.value.filter((l) => l.verdict === 'too_close'))
const unknown = computed(() => lines.value.filter((l) => l.verdict === null))
const kind = computed(() =>
  unknown.value.length === lines.value.length ? 'unknown' : owes.value.length ? 'owes' : close.value.length ? 'too_close' : 'keeps',
)
const names = (list: { name: string }[]) => [...new Set(list.map((l) => l.name))].join('; ')
const here = computed(() => ({ before: rail.line('before'), after: rail.line('after') }))
const next = computed(() => budget.value.next_reading)

function take() {
  const n = next.value
  if (!n) return
  void router.push({ name: n.stage, params: n.load_id ? { id: job.id, subject: n.load_id } : { id: job.id } })
}
</script>

<template>
  <section aria-label="Verdict">
    <div
      class="border-l-4 p-3"
      :class="
        {
          keeps: 'border-moss bg-moss-soft',
          owes: 'border-brick bg-brick-soft',
          too_close: 'border-brass bg-brass-soft',
          unknown: 'border-edge bg-shade',
        }[kind]
      "
      data-testid="verdict"
    >
      <p class="text-lg font-bold">
        <template v-if="kind === 'keeps'">Keeps in every scenario.</template>
        <template v-else-if="kind === 'owes'">Owes: {{ names(owes) }}.</template>
        <template v-else-if="kind === 'too_close'">Too close to call: {{ names(close) }}.</template>
        <template v-else>Not known yet. {{ lines[0]?.keeps.reason }}</template>
      </p>
      <p v-if="kind === 'owes' && close.length">Too close to call: {{ names(close) }}.</p>
      <p v-if="here.before?.break_even.value && here.after?.break_even.value">
        Break-even here: {{ plain(here.before.break_even.value, 0) }} rpm as it came in, {{ plain(here.after.break_even.value, 0) }} rpm
        after.
      </p>
      <p v-else-if="here.after?.break_even.value">
        Break-even here at {{ plain(here.after.break_even.value, 0) }} rpm; as it came in, {{ here.before?.break_even.reason ?? 'none' }}.
      </p>
      <p v-else-if="here.after?.break_even.reason && rail.running.value">Break-even here: {{ here.after.break_even.reason }}.</p>
    </div>
    <div v-if="next" class="mt-2 border-l-4 border-dashed border-brass p-3" data-testid="next-reading">
      Worth measuring next:
      <button type="button" class="min-h-8 font-bold text-brass underline underline-offset-4" @click="take">{{ next.name }}</button> ({{
        next.origin
      }}). It is {{ Math.round(next.share * 100) }} % of the doubt in “{{ next.scenario_name }}”, and would bring ±
      {{ plain(next.sigma_now, 2) }} A down to ± {{ plain(next.sigma_after, 2) }} A.
    </div>
  </section>
</template>
