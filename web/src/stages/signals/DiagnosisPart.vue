<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import { plain } from '../../ui/format'
import type { Command } from './useSignals'

/** What do you see? Any of it may stay open. */
const props = defineProps<{ view: Schemas['SignalsView'] }>()
const job = useJob()
type Seen = Schemas['SeenIn']
const named = <K extends string>(keys: readonly K[]) => keys.map((key) => ({ key, label: key as string }))
const LOOKS = named(['dark', 'ghost', 'dim', 'steady', 'flashes'] as const)
const RATES = named(['none', 'steady', 'slow', 'normal', 'fast'] as const)
type Look = (typeof LOOKS)[number]['key']
const command = ref<Command>('left')
const seen = ref<Record<string, Seen>>({})
const result = ref<Schemas['Diagnosis'] | null>(null)
const busy = ref(false)
const failed = ref('')
const lamps = computed(() => props.view.sides?.after.views[0].lamps ?? [])
const hasTelltale = computed(() => (props.view.sides?.after.views[0].telltales.length ?? 0) > 0)
const here = computed<Seen>(() => seen.value[command.value] ?? {})
const looked = computed(() => Object.values(seen.value).some((s) => Object.keys(s).length > 0))

function put(change: Seen) {
  const next = JSON.parse(JSON.stringify({ ...here.value, ...change })) as Seen
  seen.value = { ...seen.value, [command.value]: next }
}
function lamp(id: string, look: Look) {
  const was = { ...(here.value.lamps ?? {}) }
  if (was[id] === look) delete was[id]
  else was[id] = look
  put({ lamps: Object.keys(was).length ? was : undefined })
}

let turn = 0
watch(seen, async () => {
  const mine = ++turn
  if (!looked.value) return void (result.value = null)
  busy.value = true
  try {
    const { data, error } = await api.POST('/api/jobs/{id}/diagnose', {
      params: { path: { id: job.id } },
      body: { side: 'after', seen: seen.value as Schemas['DiagnoseIn']['seen'] },
    })
    if (mine !== turn) return
    if (data) result.value = data
    failed.value = data ? '' : (error?.message ?? '')
  } catch {
    if (mine === turn) failed.value = 'Miser does not answer; what you entered stays here.'
  } finally {
    if (mine === turn) busy.value = false
  }
})
const NAMES: Record<Command, string> = { off: 'nothing on', left: 'left on', right: 'right on', hazard: 'hazard on' }
const commands = computed(() =>
  (Object.keys(NAMES) as Command[]).map((key) => ({ key, label: NAMES[key] + (Object.keys(seen.value[key] ?? {}).length ? ' •' : '') })),
)
/** Tapped again, a look is taken back. */
function toggled<K>(was: K | undefined, now: K) {
  return was === now ? undefined : now
}
</script>

<template>
  <section aria-labelledby="diagnosis-head" data-testid="diagnosis">
    <h3 id="diagnosis-head" class="mb-2 text-lg">What do you see?</h3>
    <div class="grid gap-6 min-[1100px]:grid-cols-2">
      <div>
        <ChoiceRow class="mb-3" label="With what commanded" :options="commands" :value="command" @pick="command = $event" />
        <div v-for="l in lamps" :key="l.id" class="mb-2">
          <span class="mb-0.5 block font-semibold">{{ l.name }}</span>
          <ChoiceRow :label="`${l.name} looks`" :options="LOOKS" :value="here.lamps?.[l.id]" stretch @pick="lamp(l.id, $event)" />
        </div>
        <div v-if="hasTelltale" class="mb-2">
          <span class="mb-0.5 block font-semibold">Tell-tale</span>
          <ChoiceRow
            label="Tell-tale looks"
            :options="LOOKS"
            :value="here.telltale"
            stretch
            @pick="put({ telltale: toggled(here.telltale, $event) })"
          />
        </div>
        <div v-if="command !== 'off'" class="mb-2">
          <span class="mb-0.5 block font-semibold">Rate</span>
          <ChoiceRow label="Rate" :options="RATES" :value="here.rate" stretch @pick="put({ rate: toggled(here.rate, $event) })" />
        </div>
        <div class="flex flex-wrap gap-2">
          <button
            type="button"
            class="btn"
            :aria-pressed="here.fuse === true"
            @click="put({ fuse: here.fuse === true ? undefined : true })"
          >
            the fuse blew
          </button>
          <button type="button" class="btn" :disabled="!looked" @click="seen = {}">start over</button>
        </div>
      </div>
      <div aria-live="polite">
        <p v-if="failed" class="text-brick" role="alert">{{ failed }}</p>
        <p v-if="!looked" class="border-2 border-dashed border-line p-4 text-dim">
          Tap what you see. What you have not looked at stays open; the likeliest faults show here, and what to look at next.
        </p>
        <p v-else-if="!result" class="text-dim" role="status">{{ busy ? 'Trying every fault …' : '' }}</p>
        <template v-else>
          <ol class="border-t border-line">
            <li v-for="(c, i) in result.candidates.slice(0, 5)" :key="c.id" class="border-b border-line py-2" data-testid="candidate">
              <span class="flex items-baseline gap-3">
                <span class="num w-14 text-right text-xl font-bold">{{ c.share >= 0.005 ? Math.round(c.share * 100) : '<1' }} %</span>
                <span class="min-w-0 flex-1 font-semibold">{{ c.label }}</span>
                <span class="text-sm text-dim">explains {{ c.explains }} of {{ c.of }}</span>
              </span>
              <span v-if="i < 2 && c.cures.length" class="block pl-[4.25rem] text-sm">{{ c.cures.join(' ') }}</span>
              <span v-if="c.contradicts.length" class="block pl-[4.25rem] text-sm text-brick">{{
                c.contradicts.slice(0, 2).join('; ')
              }}</span>
            </li>
          </ol>
          <div v-if="result.next_test" class="mt-3 border-l-4 border-brass bg-brass-soft p-3" data-testid="next-test">
            <p class="font-bold">Next: {{ result.next_test.words }}</p>
            <p v-for="o in result.next_test.outcomes" :key="o.outcome" class="mt-1">
              <b>{{ o.outcome }}</b> <span class="num text-sm">{{ plain(o.share * 100, 0) }} %</span>: {{ o.means.slice(0, 3).join('; ') }}
            </p>
          </div>
          <p class="mt-2 text-sm text-dim">{{ result.solved }} circuits solved.</p>
        </template>
      </div>
    </div>
  </section>
</template>
