<script setup lang="ts">
import { computed, onMounted, ref, shallowRef, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, AWAY, freshId, type FieldError, type Schemas } from '../api/client'
import { useMe } from '../state/useMe'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import FastenerRow from './FastenerRow.vue'

type Template = Schemas['AccessTemplate']
type Step = Schemas['AccessStep']

/** The ways this shop opens machines: their steps, tools, fasteners; edited as a whole and kept at once. */
const route = useRoute()
const router = useRouter()
const me = useMe()
const kept = shallowRef<Schemas['AccessTemplates'] | null>(null)
const failed = ref('')
const fields = ref<FieldError[]>([])
const saved = ref('')
const draft = ref<Template | null>(null)
const dropped = shallowRef<Template | null>(null)
document.title = 'Ways of opening · Miser'

const key = computed(() => (route.params.template as string | undefined) || kept.value?.templates[0]?.template.key || '')
const entry = computed(() => kept.value?.templates.find((t) => t.template.key === key.value) ?? null)
const changed = computed(() => draft.value !== null && JSON.stringify(draft.value) !== JSON.stringify(entry.value?.template))

async function ask(call: () => Promise<{ data?: Schemas['AccessTemplates']; error?: { message: string; fields?: FieldError[] } }>) {
  failed.value = ''
  fields.value = []
  try {
    const { data, error } = await call()
    if (data) kept.value = data
    if (error) {
      failed.value = error.message
      fields.value = error.fields ?? []
    }
    return data !== undefined
  } catch {
    failed.value = `${AWAY} What you typed stays on the screen.`
    return false
  }
}
onMounted(() => void ask(() => api.GET('/api/access')))
watch(
  [entry, key],
  () => {
    const template = entry.value?.template
    if (template && draft.value?.key !== template.key) draft.value = structuredClone(template)
  },
  { immediate: true },
)

function plain(template: Template): Template {
  const filled = (value: unknown) => value !== '' && value !== null && value !== undefined && !(Array.isArray(value) && value.length === 0)
  const only = <T extends object>(row: T) => Object.fromEntries(Object.entries(row).filter(([, v]) => filled(v))) as T
  return {
    ...only(template),
    steps: template.steps.map((s) => only({ ...s, out: s.out?.map(only) })),
  }
}
async function save() {
  if (!draft.value?.key) return
  const body = plain(draft.value)
  if (await ask(() => api.PUT('/api/access/{key}', { params: { path: { key: body.key! } }, body }))) {
    draft.value = structuredClone(entry.value?.template ?? null)
    saved.value = 'saved'
  }
}
async function drop() {
  const was = entry.value?.template
  if (!was?.key) return
  if (await ask(() => api.DELETE('/api/access/{key}', { params: { path: { key: was.key! } } }))) {
    dropped.value = was
    draft.value = null
    if (!entry.value) void router.replace({ name: 'access', params: { template: undefined } })
    else draft.value = structuredClone(entry.value.template)
  }
}
async function bringBack() {
  const was = dropped.value
  if (was?.key && (await ask(() => api.PUT('/api/access/{key}', { params: { path: { key: was.key! } }, body: was })))) {
    dropped.value = null
    draft.value = null
    void router.push({ name: 'access', params: { template: was.key } })
  }
}
async function add() {
  const fresh: Template = {
    key: freshId(),
    label: 'New way of opening',
    where: '',
    opens: [],
    steps: [{ id: freshId(), text: 'First step' }],
  }
  if (await ask(() => api.PUT('/api/access/{key}', { params: { path: { key: fresh.key! } }, body: fresh })))
    void router.push({ name: 'access', params: { template: fresh.key } })
}
function addStep() {
  draft.value?.steps.push({ id: freshId(), text: '' })
}
function removeStep(step: Step) {
  if (!draft.value) return
  draft.value.steps = draft.value.steps.filter((s) => s !== step).map((s) => ({ ...s, needs: s.needs?.filter((n) => n !== step.id) }))
}
function move(i: number, by: number) {
  const steps = draft.value!.steps
  if (i + by < 0 || i + by >= steps.length) return
  steps.splice(i + by, 0, ...steps.splice(i, 1))
}
function toggle(list: 'opens' | 'machines' | 'systems', value: string) {
  const row = draft.value as unknown as Record<string, string[] | undefined>
  const now = row[list] ?? []
  row[list] = now.includes(value) ? now.filter((v) => v !== value) : [...now, value]
}
const has = (list: 'opens' | 'machines' | 'systems', value: string) =>
  ((draft.value as unknown as Record<string, string[] | undefined> | null)?.[list] ?? []).includes(value)
function needs(step: Step, id: string) {
  const now = step.needs ?? []
  step.needs = now.includes(id) ? now.filter((n) => n !== id) : [...now, id]
}
const wrong = (step: Step) => fields.value.filter((f) => f.at.startsWith(`/steps/${step.id}/`) || f.at === `/steps/${step.id}`)
const others = computed(() => fields.value.filter((f) => !draft.value?.steps.some((s) => wrong(s).includes(f))))
const GROUPS = computed(() => [
  { list: 'opens' as const, label: 'gets at', all: kept.value?.opens ?? [] },
  { list: 'machines' as const, label: 'usual on (none: any)', all: kept.value?.machines ?? [] },
  { list: 'systems' as const, label: 'with this system (none: any)', all: kept.value?.systems ?? [] },
])
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="mb-3 flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ bay board</RouterLink>
      <h1 class="mr-auto text-2xl">Ways of opening</h1>
    </header>
    <FailNote :text="failed" />
    <p v-if="dropped" class="mb-2 flex items-center gap-3 bg-shade px-3 py-1" role="status">
      {{ dropped.label }} was taken out. <button type="button" class="btn" @click="bringBack">Bring it back</button>
    </p>
    <EmptyBox v-if="!kept && !failed">Looking up …</EmptyBox>
    <div v-if="kept" class="grid gap-6 min-[900px]:grid-cols-[16rem_minmax(0,1fr)]">
      <nav aria-label="Ways of opening">
        <ul>
          <li v-for="t in kept.templates" :key="t.template.key">
            <RouterLink
              :to="{ name: 'access', params: { template: t.template.key } }"
              class="flex min-h-11 items-center border-l-4 px-3"
              :class="t.template.key === key ? 'border-brass bg-shade font-bold' : 'border-transparent'"
              :aria-current="t.template.key === key ? 'page' : undefined"
              >{{ t.template.label
              }}<span v-if="t.own" class="ml-auto text-sm text-dim">{{ t.shipped ? 'changed' : 'own' }}</span></RouterLink
            >
          </li>
        </ul>
        <button type="button" class="btn mt-3" :disabled="!me.mayOwn" @click="add">Add one</button>
      </nav>
      <form v-if="draft" data-testid="access" @submit.prevent="save">
        <fieldset :disabled="!me.mayOwn" class="contents">
          <div class="mb-3 grid gap-3 sm:grid-cols-2">
            <label class="block"
              ><span class="text-dim">Name</span><input v-model="draft.label" class="field" maxlength="80" data-access-field="label"
            /></label>
            <label class="block"
              ><span class="text-dim">Where on the machine</span><input v-model="draft.where" class="field" maxlength="60"
            /></label>
          </div>
          <div v-for="g in GROUPS" :key="g.list" class="mb-2" role="group" :aria-label="g.label">
            <span class="block text-dim">{{ g.label }}</span>
            <button
              v-for="o in g.all"
              :key="o.key"
              type="button"
              class="btn -ml-px"
              :aria-pressed="has(g.list, o.key)"
              @click="toggle(g.list, o.key)"
            >
              {{ o.label }}
            </button>
          </div>
          <label class="mb-3 flex min-h-11 items-center gap-2"
            ><input v-model="draft.each" type="checkbox" class="h-5 w-5" /> each lamp is opened by itself</label
          >
          <ol>
            <li v-for="(s, i) in draft.steps" :key="s.id" class="mb-3 border-l-4 border-line pl-3" :data-access-step="s.id">
              <div class="flex flex-wrap items-end gap-2">
                <span class="num w-6 pb-3 text-dim">{{ i + 1 }}</span>
                <label class="min-w-64 flex-1"
                  ><span class="text-dim">What to do</span><input v-model="s.text" class="field" maxlength="300"
                /></label>
                <label class="w-36"
                  ><span class="text-dim">Tool and size</span><input v-model="s.tool" class="field" maxlength="60"
                /></label>
                <label class="w-24"
                  ><span class="text-dim">Minutes</span><input v-model.number="s.minutes" class="field num" inputmode="decimal"
                /></label>
                <button type="button" class="btn" :aria-label="`Step ${i + 1} up`" :disabled="i === 0" @click="move(i, -1)">↑</button>
                <button
                  type="button"
                  class="btn"
                  :aria-label="`Step ${i + 1} down`"
                  :disabled="i === draft.steps.length - 1"
                  @click="move(i, 1)"
                >
                  ↓
                </button>
                <button type="button" class="btn" :disabled="draft.steps.length === 1" @click="removeStep(s)">Take out</button>
              </div>
              <p v-for="f in wrong(s)" :key="f.message" class="text-brick" role="alert">
                {{ f.field }}: {{ f.message }}. Accepted: {{ f.accepts }}.
              </p>
              <details class="mt-1 ml-8">
                <summary class="min-h-11 cursor-pointer py-2 text-dim">
                  {{
                    [
                      s.back ? 'goes back' : 'does not go back',
                      s.out?.length ? (s.out.length === 1 ? 'one kind of fastener' : `${s.out.length} kinds of fastener`) : '',
                      s.caution ? 'caution' : '',
                      s.hold ? 'hold' : '',
                    ]
                      .filter(Boolean)
                      .join(' · ')
                  }}
                </summary>
                <div class="grid gap-2 sm:grid-cols-2">
                  <label><span class="text-dim">More of it</span><input v-model="s.detail" class="field" maxlength="400" /></label>
                  <label><span class="text-dim">Caution</span><input v-model="s.caution" class="field" maxlength="200" /></label>
                  <label
                    ><span class="text-dim">How it goes back (empty: it does not)</span
                    ><input v-model="s.back" class="field" maxlength="300"
                  /></label>
                  <label
                    ><span class="text-dim">Minutes to put it back</span
                    ><input v-model.number="s.back_minutes" class="field num" inputmode="decimal"
                  /></label>
                </div>
                <label class="flex min-h-11 items-center gap-2"
                  ><input v-model="s.hold" type="checkbox" class="h-5 w-5" /> hold: one stops here and looks</label
                >
                <div role="group" :aria-label="`What step ${i + 1} waits for`">
                  <span class="block text-dim">waits for (none: the step before it)</span>
                  <button
                    v-for="(o, j) in draft.steps.filter((x) => x.id !== s.id)"
                    :key="o.id"
                    type="button"
                    class="btn -ml-px"
                    :aria-pressed="(s.needs ?? []).includes(o.id)"
                    :data-needs="o.id"
                    @click="needs(s, o.id)"
                  >
                    {{ o.text.slice(0, 30) || `step ${j + 1}` }}
                  </button>
                </div>
                <FastenerRow v-for="(_, n) in s.out ?? []" :key="n" v-model="s.out![n]" @remove="s.out!.splice(n, 1)" />
                <button type="button" class="btn mt-2" @click="(s.out ??= []).push({ from: '', count: 1 })">
                  A fastener that comes out
                </button>
              </details>
            </li>
          </ol>
          <button type="button" class="btn mb-4" @click="addStep">Add a step</button>
          <p v-for="f in others" :key="f.at + f.message" class="text-brick" role="alert">
            {{ f.field }}: {{ f.message }}. Accepted: {{ f.accepts }}.
          </p>
          <div class="sticky bottom-0 flex flex-wrap items-center gap-3 bg-paper py-2">
            <button type="submit" class="btn btn-main min-h-14" :disabled="!changed">Keep it</button>
            <button v-if="entry?.own" type="button" class="btn min-h-14" @click="drop">
              {{ entry.shipped ? 'As it shipped' : 'Take it out' }}
            </button>
            <span class="text-dim" role="status">{{ changed ? 'not kept yet' : saved }}</span>
          </div>
        </fieldset>
      </form>
    </div>
  </main>
</template>
