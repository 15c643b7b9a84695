<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, AWAY, type Schemas } from '../../api/client'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import ToneNote from '../../ui/ToneNote.vue'
import { plain } from '../../ui/format'
import type { Command } from './useSignals'

/** What do you see? Any of it may stay open. */
const props = defineProps<{ view: Schemas['SignalsView'] }>()
const job = useJob()
const reference = useReference()
type Seen = Schemas['SeenIn']
const named = <K extends string>(keys: readonly K[]) => keys.map((key) => ({ key, label: key as string }))
const LOOKS = named(['dark', 'ghost', 'dim', 'steady', 'flashes'] as const)
const RATES = named(['none', 'steady', 'slow', 'normal', 'fast'] as const)
type Look = (typeof LOOKS)[number]['key']
const command = ref<Command>('left')
const seen = ref<Record<string, Seen>>({})
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

const {
  data: result,
  failed,
  busy,
} = useFetched(
  seen,
  () =>
    looked.value
      ? api.POST('/api/jobs/{id}/diagnose', {
          params: { path: { id: job.id } },
          body: { side: 'after', seen: seen.value as Schemas['DiagnoseIn']['seen'] },
        })
      : null,
  `${AWAY} What you entered stays here.`,
)
/** Which commands have been looked at shows at their names. */
const commands = computed(() =>
  (reference.tables?.signal_commands ?? []).map((c) => ({
    ...c,
    label: c.on + (Object.keys(seen.value[c.key] ?? {}).length ? ' •' : ''),
  })),
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
          <ChoiceRow :label="`${l.name} looks`" :options="LOOKS" :value="here.lamps?.[l.id]" stretch optional @pick="lamp(l.id, $event)" />
        </div>
        <div v-if="hasTelltale" class="mb-2">
          <span class="mb-0.5 block font-semibold">Tell-tale</span>
          <ChoiceRow
            label="Tell-tale looks"
            :options="LOOKS"
            :value="here.telltale"
            stretch
            optional
            @pick="put({ telltale: toggled(here.telltale, $event) })"
          />
        </div>
        <div v-if="command !== 'off'" class="mb-2">
          <span class="mb-0.5 block font-semibold">Rate</span>
          <ChoiceRow label="Rate" :options="RATES" :value="here.rate" stretch optional @pick="put({ rate: toggled(here.rate, $event) })" />
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
        <FailNote :text="failed" />
        <EmptyBox v-if="!looked">
          Tap what you see. What you have not looked at stays open; the likeliest faults show here, and what to look at next.
        </EmptyBox>
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
          <ToneNote v-if="result.next_test" tone="doubt" class="mt-3" data-testid="next-test">
            <p class="font-bold">Next: {{ result.next_test.words }}</p>
            <p v-for="o in result.next_test.outcomes" :key="o.outcome" class="mt-1">
              <b>{{ o.outcome }}</b> <span class="num text-sm">{{ plain(o.share * 100, 0) }} %</span>: {{ o.means.slice(0, 3).join('; ') }}
            </p>
          </ToneNote>
          <p class="mt-2 text-sm text-dim">{{ result.solved }} circuits solved.</p>
        </template>
      </div>
    </div>
  </section>
</template>
