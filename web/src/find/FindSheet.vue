<script setup lang="ts">
import { useDebounceFn } from '@vueuse/core'
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { computed, ref, watch } from 'vue'
import { useRoute, useRouter } from 'vue-router'
import { api, AWAY } from '../api/client'
import { stageFor } from '../stages/registry'
import { useJob } from '../state/useJob'
import { useReference } from '../state/useReference'
import { useTheme } from '../state/useTheme'
import Sheet from '../ui/Sheet.vue'

const props = defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
interface Hit {
  kind: string
  label: string
  detail: string
  go: () => void
}
const router = useRouter()
const route = useRoute()
const job = useJob()
const theme = useTheme()
const reference = useReference()
const word = ref('')
const found = ref<Hit[]>([])
const failed = ref(false)

const commands = computed<Hit[]>(() => {
  const inJob = typeof route.params.id === 'string' && job.view
  const id = route.params.id as string
  const list: Hit[] = [
    { kind: 'go', label: 'Bay board', detail: 'all machines', go: () => void router.push('/') },
    { kind: 'go', label: 'The book', detail: 'every machine, its jobs, its years', go: () => void router.push('/book') },
    { kind: 'go', label: 'Rechecks', detail: 'what falls due; calendar', go: () => void router.push('/rechecks') },
    { kind: 'go', label: 'What was learnt', detail: 'parts, models, minutes; other shops', go: () => void router.push('/learnt') },
    { kind: 'go', label: 'Drills', detail: 'find the fault on a simulated machine', go: () => void router.push('/drills') },
    { kind: 'go', label: 'Suppliers and prices', detail: 'terms, price lists, the shop’s money', go: () => void router.push('/suppliers') },
    { kind: 'go', label: 'Shelf of parts', detail: 'add, edit, retire', go: () => void router.push('/shelf') },
    {
      kind: 'go',
      label: 'Ways of opening',
      detail: 'templates of the job card: steps, tools, fasteners',
      go: () => void router.push('/access'),
    },
    { kind: 'go', label: 'Shop settings', detail: 'assumptions, units', go: () => void router.push('/shop') },
    { kind: 'do', label: 'Light or dark', detail: 'T', go: theme.toggle },
    { kind: 'do', label: 'Show keys', detail: '?', go: () => window.dispatchEvent(new Event('miser:keys')) },
  ]
  // From the board a stage is that of a machine to be chosen: the machines are found by name.
  if (!inJob)
    return [...list, { kind: 'do', label: 'New machine', detail: 'open a ticket', go: () => window.dispatchEvent(new Event('miser:new')) }]
  const stages = job.view!.ticket.stages.map((s, i) => ({
    kind: 'stage',
    label: s.label,
    detail: i < 10 ? String((i + 1) % 10) : '',
    go: () => void router.push({ name: s.stage, params: { id } }),
  }))
  const settings = (reference.tables?.assumptions ?? []).map((a) => ({
    kind: 'setting',
    label: a.label,
    detail: a.basis,
    go: () => void router.push({ name: stageFor('settings'), params: { id }, hash: `#set-${a.key}` }),
  }))
  return [
    ...stages,
    { kind: 'do', label: 'Undo', detail: 'Ctrl Z', go: () => void job.act('undo') },
    { kind: 'do', label: 'Redo', detail: 'Ctrl Shift Z', go: () => void job.act('redo') },
    { kind: 'do', label: 'Take a reading', detail: 'R', go: () => void router.push({ name: stageFor('reading'), params: { id } }) },
    ...list,
    // Too many to list unasked.
    ...(word.value.trim() === '' ? [] : settings),
  ]
})
const hits = computed(() => {
  const wanted = word.value.trim().toLowerCase()
  const words = wanted.split(/\s+/).filter(Boolean)
  const local = commands.value.filter((c) => words.every((w) => `${c.label} ${c.kind} ${c.detail}`.toLowerCase().includes(w)))
  // Stages of the ticket in hand, then what lies in the shop, then commands and settings.
  const stages = local.filter((c) => c.kind === 'stage')
  return wanted === '' ? local : [...stages, ...found.value, ...local.filter((c) => c.kind !== 'stage')]
})

const search = useDebounceFn(async (text: string) => {
  try {
    const { data } = await api.GET('/api/search', { params: { query: { q: text } } })
    failed.value = false
    // The machine in hand comes before the others.
    const ours = (data?.hits ?? []).filter((h) => h.job === route.params.id)
    const others = (data?.hits ?? []).filter((h) => h.job !== route.params.id)
    found.value = [...ours, ...others].map((h) => ({
      kind: h.kind,
      label: h.label,
      detail: h.detail,
      go: () =>
        void (h.machine
          ? router.push({ name: 'machine', params: { id: h.machine } })
          : h.job
            ? router.push({
                name: h.stage ?? (h.kind === 'job' ? 'hand_over' : stageFor(h.subject ? 'reading' : 'opening')),
                params: { id: h.job, subject: h.subject ?? undefined },
              })
            : router.push({ name: 'shelf', params: { part: h.subject ?? '' } })),
    }))
  } catch {
    failed.value = true
  }
}, 120)

watch(word, (text) => (text.trim() ? void search(text.trim()) : (found.value = [])))
watch(
  () => props.open,
  () => (word.value = ''),
)

function pick(hit: Hit | null) {
  if (!hit) return
  emit('close')
  hit.go()
}
</script>

<template>
  <Sheet :open="open" title="Find" @close="$emit('close')">
    <Combobox :model-value="null" nullable @update:model-value="pick">
      <ComboboxInput
        class="field text-lg"
        placeholder="machine, owner, frame number, part, note, stage, command"
        aria-label="Find"
        autocomplete="off"
        @change="word = $event.target.value"
      />
      <p v-if="failed" class="mt-2 text-brick">{{ AWAY }} Only commands are found.</p>
      <ComboboxOptions static class="mt-3 max-h-[55vh] overflow-y-auto">
        <ComboboxOption v-for="(h, i) in hits" :key="`${h.kind}${h.label}${i}`" v-slot="{ active }" :value="h" as="template">
          <li class="flex min-h-11 cursor-pointer items-center gap-3 border-b border-line px-2" :class="active ? 'bg-shade' : ''">
            <span class="w-16 text-sm text-dim">{{ h.kind }}</span><span class="font-semibold">{{ h.label }}</span
            ><span class="ml-auto text-dim">{{ h.detail }}</span>
          </li>
        </ComboboxOption>
        <li v-if="hits.length === 0" class="p-3 text-dim">
          Nothing has all of these words. Try a machine’s name, a lamp (“tail”), a base (“H4”), a part, a stage (“signals”) or a command
          (“undo”).
        </li>
      </ComboboxOptions>
    </Combobox>
  </Sheet>
</template>
