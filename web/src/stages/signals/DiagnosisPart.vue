<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, AWAY, type Schemas } from '../../api/client'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import { useMe } from '../../state/useMe'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import ToneNote from '../../ui/ToneNote.vue'
import { plain } from '../../ui/format'

/** What do you see? Any of it may stay open. */
const props = defineProps<{ view: Schemas['SignalsView'] }>()
const job = useJob()
type Seen = Schemas['SeenIn']
type AllSeen = Schemas['DiagnoseIn']['seen']
type State = NonNullable<Schemas['SignalsView']['asked']>['states'][number]['key']
const named = <K extends string>(keys: readonly K[]) => keys.map((key) => ({ key, label: key as string }))
const LOOKS = named(['dark', 'ghost', 'dim', 'steady', 'flashes'] as const)
const RATES = named(['none', 'steady', 'slow', 'normal', 'fast'] as const)
type Look = (typeof LOOKS)[number]['key']
/** Signs that a state has or has not. */
const SIGNS = [
  { key: 'fuse', label: 'the fuse blew' },
  { key: 'telltale_fast', label: 'the tell-tale alone is fast' },
  { key: 'afterglow', label: 'glows between flashes' },
] as const
const command = ref<State>('left')
const seen = ref<AllSeen>({})
const lamps = computed(() => props.view.sides?.after.views[0].lamps ?? [])
const lights = computed(() => props.view.asked?.lights ?? [])
const hasTelltale = computed(() => (props.view.sides?.after.views[0].telltales.length ?? 0) > 0)
const here = computed<Seen>(() => seen.value[command.value] ?? {})
const looked = computed(() => Object.values(seen.value).some((s) => Object.keys(s).length > 0))
const signalling = computed(() => !['off', 'brake'].includes(command.value))

/** What stands at a place of what was seen is put, or taken back where it stood already. */
function put(state: string, path: string[], value: unknown) {
  const next = JSON.parse(JSON.stringify(seen.value)) as Record<string, Record<string, unknown>>
  const keys = [state, ...path]
  const last = keys.pop()!
  const at = keys.reduce<Record<string, unknown>>((o, key) => (o[key] ??= {}) as Record<string, unknown>, next)
  if (at[last] === value) delete at[last]
  else at[last] = value
  seen.value = next as AllSeen
}

const {
  data: result,
  failed,
  busy,
} = useFetched(
  seen,
  () =>
    looked.value
      ? api.POST('/api/jobs/{id}/diagnose', { params: { path: { id: job.id } }, body: { side: 'after', seen: seen.value } })
      : null,
  `${AWAY} What you entered stays here.`,
)
/** A sign seen elsewhere and brought here by the address: command/kind/lamp/look. */
const route = useRoute()
const router = useRouter()
watch(
  () => route.query.sign,
  (sign) => {
    if (typeof sign !== 'string') return
    const [state, ...path] = sign.split('/')
    const look = path.pop()
    if (!look || path.length === 0) return
    command.value = state as State
    seen.value = {}
    put(state, path, look)
    void router.replace({ query: {}, hash: route.hash })
  },
  { immediate: true },
)
/** Which states have been looked at shows at their names. */
const commands = computed(() =>
  (props.view.asked?.states ?? []).map((c) => ({
    key: c.key,
    label: c.on + (Object.keys(seen.value[c.key] ?? {}).length ? ' •' : ''),
  })),
)
/** A solved case becomes a drill: the same machine, the same fault, told as its rider would. */
const me = useMe()
const making = ref(false)
const notMade = ref('')
const drillable = (c: { id: string }) => !['none', 'other'].includes(c.id) && !c.id.includes('+')
async function drillOf(id: string) {
  making.value = true
  notMade.value = ''
  try {
    const { data, error } = await api.POST('/api/drills', { body: { machine: job.id, fault: `signals/${id}` } })
    if (data) void router.push({ name: 'drill', params: { id: data.drill.id } })
    else notMade.value = (error as Schemas['Refusal']).fields.map((f) => f.message).join(' ') || (error as Schemas['Refusal']).message
  } catch {
    notMade.value = AWAY
  }
  making.value = false
}
/** An answer to what was asked goes where it would have been tapped. */
function answer(observe: { command: string; kind: string; id: string | null }, value: string | boolean | null) {
  if (value === null) return
  const path = observe.kind === 'check' ? [observe.id!] : observe.id ? [observe.kind, observe.id] : [observe.kind]
  put(observe.command, path, value)
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
          <ChoiceRow
            :label="`${l.name} looks`"
            :options="LOOKS"
            :value="here.lamps?.[l.id]"
            stretch
            optional
            @pick="put(command, ['lamps', l.id], $event as Look)"
          />
        </div>
        <div v-for="l in lights" :key="l.id" class="mb-2">
          <span class="mb-0.5 block font-semibold">{{ l.name }}</span>
          <ChoiceRow
            :label="`${l.name} looks`"
            :options="LOOKS"
            :value="here.lights?.[l.id]"
            stretch
            optional
            @pick="put(command, ['lights', l.id], $event as Look)"
          />
        </div>
        <div v-if="hasTelltale" class="mb-2">
          <span class="mb-0.5 block font-semibold">Tell-tale</span>
          <ChoiceRow
            label="Tell-tale looks"
            :options="LOOKS"
            :value="here.telltale"
            stretch
            optional
            @pick="put(command, ['telltale'], $event)"
          />
        </div>
        <div v-if="signalling" class="mb-2">
          <span class="mb-0.5 block font-semibold">Rate</span>
          <ChoiceRow label="Rate" :options="RATES" :value="here.rate" stretch optional @pick="put(command, ['rate'], $event)" />
        </div>
        <div class="flex flex-wrap gap-2">
          <button
            v-for="sign in signalling ? SIGNS : SIGNS.slice(0, 1)"
            :key="sign.key"
            type="button"
            class="btn"
            :aria-pressed="here[sign.key] === true"
            @click="put(command, [sign.key], true)"
          >
            {{ sign.label }}
          </button>
          <button type="button" class="btn" :aria-pressed="seen.housing?.works_open === true" @click="put('housing', ['works_open'], true)">
            works open, not closed up
          </button>
          <button type="button" class="btn" :disabled="!looked" @click="seen = {}">start over</button>
        </div>
      </div>
      <div aria-live="polite">
        <FailNote :text="failed || notMade" />
        <EmptyBox v-if="!looked">
          Tap what you see. What you have not looked at stays open; the likeliest faults show here, and what to look at next.
        </EmptyBox>
        <p v-else-if="!result" class="text-dim" role="status">{{ busy ? 'Trying every fault …' : '' }}</p>
        <template v-else>
          <ol class="border-t border-line">
            <li v-for="(c, i) in result.candidates.slice(0, 5)" :key="c.id" class="border-b border-line py-2" data-testid="candidate">
              <span class="flex items-baseline gap-3">
                <span class="num w-14 text-right text-xl font-bold">{{ c.share >= 0.005 ? Math.round(c.share * 100) : '<1' }} %</span>
                <span class="min-w-0 flex-1 font-semibold first-letter:uppercase">{{ c.label }}</span>
                <span class="text-sm text-dim">explains {{ c.explains }} of {{ c.of }}</span>
              </span>
              <span v-if="i < 2 && c.cures.length" class="block pl-[4.25rem] text-sm">{{ c.cures.join(' ') }}</span>
              <span v-if="i < 2 && drillable(c) && me.mayChange" class="block pl-[4.25rem]">
                <button type="button" class="btn" :disabled="making" @click="drillOf(c.id)">It was this: make a drill of it</button>
              </span>
              <span v-if="c.contradicts.length" class="block pl-[4.25rem] text-sm text-brick">{{
                c.contradicts.slice(0, 2).join('; ')
              }}</span>
            </li>
          </ol>
          <ToneNote v-if="result.next_test" tone="doubt" class="mt-3" data-testid="next-test">
            <p class="font-bold">Next: {{ result.next_test.words }}</p>
            <p v-for="o in result.next_test.outcomes" :key="o.outcome" class="mt-1 flex flex-wrap items-baseline gap-x-2">
              <button type="button" class="btn" :disabled="o.value === null" @click="answer(result.next_test!.observe, o.value)">
                {{ o.outcome }}
              </button>
              <span class="num text-sm">{{ plain(o.share * 100, 0) }} %</span>
              <span class="min-w-0 flex-1 basis-40">{{ o.means.slice(0, 3).join('; ') }}</span>
            </p>
          </ToneNote>
          <p class="mt-2 text-sm text-dim">{{ result.solved }} circuits solved.</p>
        </template>
      </div>
    </div>
  </section>
</template>
