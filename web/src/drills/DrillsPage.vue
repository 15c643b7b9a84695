<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, AWAY, type Schemas } from '../api/client'
import DrillCurve from '../charts/DrillCurve.vue'
import { useFetched } from '../state/useFetched'
import ChoiceRow from '../ui/ChoiceRow.vue'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import { money, plain } from '../ui/format'

/** Drills: one to begin, those begun, where one stands. */
document.title = 'Drills · Miser'
const router = useRouter()
const { data, failed, fetch } = useFetched(ref(0), () => api.GET('/api/drills'))
const kind = ref('fault')
const machine = ref('')
const level = ref(0)
const code = ref('')
const refused = ref('')
const busy = ref(false)
const levels = computed(() => [
  { key: 0, label: `for me: ${data.value?.level ?? ''}` },
  ...(data.value?.levels ?? []).map((l) => ({ key: l.level, label: `${l.level} ${l.label}` })),
])
type Begin = Schemas['DrillBegin']
async function begin(body: Begin) {
  refused.value = ''
  busy.value = true
  try {
    const { data: made, error } = await api.POST('/api/drills', { body })
    if (made) void router.push({ name: 'drill', params: { id: made.drill.id } })
    else {
      const refusal = error as Schemas['Refusal']
      refused.value = [refusal.message, ...refusal.fields.map((f) => `${f.message}. Accepted: ${f.accepts}.`)].join(' ')
    }
  } catch {
    refused.value = AWAY
  }
  busy.value = false
}
const fresh = () =>
  void begin({
    kind: kind.value as Begin['kind'],
    level: level.value || undefined,
    machine: kind.value === 'fault' && machine.value ? machine.value : undefined,
  })
async function forget(id: string) {
  const { data: list } = await api.DELETE('/api/drills/{id}', { params: { path: { id } } }).catch(() => ({ data: undefined }))
  if (list) data.value = list
  else void fetch()
}
const open = (id: string) => void router.push({ name: 'drill', params: { id } })
const what = (row: Schemas['DrillRow']) =>
  row.kind === 'fault' ? row.name : (data.value?.kinds.find((k) => k.key === row.kind)?.label ?? row.name)
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ board</RouterLink>
      <h1 class="mr-auto text-2xl">Drills</h1>
      <span v-if="data && data.solved.of" class="num"
        >{{ data.solved.k }} of {{ data.solved.of }} solved<span class="text-dim"
          >; lately {{ data.solved.lately.k }} of {{ data.solved.lately.of }}</span
        ></span
      >
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <p v-if="!data && !failed" class="p-4 text-dim" role="status">Looking up where you stand …</p>
    <template v-if="data">
      <section class="my-4" aria-labelledby="begin-head">
        <h2 id="begin-head" class="mb-1 text-xl">Begin one</h2>
        <p class="mb-2 max-w-3xl text-dim">
          Something is wrong with a machine, and its rider tells what was noticed. Look, read, pull, mend: all of it is solved, all of it
          takes its time. Nobody else sees how you do.
        </p>
        <ChoiceRow label="Kind" :options="data.kinds" :value="kind" @pick="kind = $event" />
        <ChoiceRow class="mt-2" label="Level" :options="levels" :value="level" @pick="level = $event" />
        <div class="mt-2 flex flex-wrap items-end gap-2">
          <label v-if="kind === 'fault'" class="w-64"
            ><span class="font-semibold">On</span>
            <select v-model="machine" class="field" data-testid="drill-machine">
              <option value="">a machine nobody has</option>
              <option v-for="m in data.machines" :key="m.id" :value="m.id">{{ m.name }}</option>
            </select></label
          >
          <button type="button" class="btn btn-main" :disabled="busy" data-testid="begin" @click="fresh">
            {{ busy ? 'Hiding something …' : 'Begin' }}
          </button>
          <form class="ml-auto flex items-end gap-1" @submit.prevent="code.trim() && begin({ code: code.trim() })">
            <label class="w-64"
              ><span class="font-semibold">Or one that somebody handed you</span
              ><input v-model="code" class="field num" maxlength="80" placeholder="its code" data-testid="drill-code"
            /></label>
            <button type="submit" class="btn" :disabled="busy || !code.trim()">Take it</button>
          </form>
        </div>
        <p v-if="refused" class="mt-2 text-brick" role="alert">{{ refused }}</p>
      </section>
      <section v-if="data.open.length" class="my-5" aria-labelledby="open-head">
        <h2 id="open-head" class="text-xl">Begun</h2>
        <ul>
          <li v-for="r in data.open" :key="r.id" class="flex flex-wrap items-center gap-3 border-b border-line py-1">
            <span class="mr-auto"
              ><span class="font-semibold">{{ what(r) }}</span>
              <span class="text-dim">level {{ r.level }}, {{ r.level_label }}; {{ r.begun_at.slice(0, 10) }}</span></span
            >
            <button type="button" class="btn" @click="open(r.id)">Go on</button>
            <button type="button" class="btn btn-bare" @click="forget(r.id)">Throw it away</button>
          </li>
        </ul>
      </section>
      <section class="my-5" aria-labelledby="curve-head">
        <h2 id="curve-head" class="text-xl">Where you stand</h2>
        <EmptyBox v-if="data.curve.length === 0"
          >Nothing yet. After each drill a point stands here: how hard it was, whether it was solved, and where that puts you.</EmptyBox
        >
        <DrillCurve v-else :points="data.curve" :levels="data.levels" @open="open" />
      </section>
      <section v-if="data.ended.length" class="my-5" aria-labelledby="ended-head">
        <h2 id="ended-head" class="text-xl">Played</h2>
        <div class="overflow-x-auto">
          <table class="sheet w-full">
            <thead>
              <tr>
                <th>drill</th>
                <th>level</th>
                <th></th>
                <th class="r">you</th>
                <th class="r">the best, on the average</th>
                <th>code</th>
              </tr>
            </thead>
            <tbody>
              <tr v-for="r in data.ended" :key="r.id" data-testid="played">
                <td>
                  <RouterLink
                    class="underline decoration-line underline-offset-4 hover:decoration-brass"
                    :to="{ name: 'drill', params: { id: r.id } }"
                    >{{ what(r) }}</RouterLink
                  >
                </td>
                <td>{{ r.level }} {{ r.level_label }}</td>
                <td class="font-semibold" :class="r.solved ? 'text-moss' : 'text-brick'">{{ r.solved ? 'solved' : 'not solved' }}</td>
                <td class="r num">{{ r.minutes === null ? '' : `${plain(r.minutes, 0)} min · ${money(r.cents)}` }}</td>
                <td class="r num text-dim">
                  {{ r.expected_minutes === null ? '' : `${plain(r.expected_minutes, 0)} min · ${money(r.expected_cents)}` }}
                </td>
                <td class="num text-sm">{{ r.code ?? 'of the shop’s own' }}</td>
              </tr>
            </tbody>
          </table>
        </div>
      </section>
    </template>
  </main>
</template>
