<script setup lang="ts">
import { computed, ref, watch } from 'vue'
import { useRouter } from 'vue-router'
import { api, AWAY, type Schemas } from '../api/client'
import { stageFor } from '../stages/registry'
import { useJob } from '../state/useJob'

const job = useJob()
const router = useRouter()
const steps = ref<Schemas['History']['steps']>([])
const earlier = ref<number | null>(null)
const failed = ref('')
const read = ref(false)

async function fetchSteps(before?: number) {
  failed.value = ''
  try {
    const { data, error } = await api.GET('/api/jobs/{id}/history', { params: { path: { id: job.id }, query: { before } } })
    if (!data) return void (failed.value = (error as { message?: string } | undefined)?.message ?? 'The history could not be read.')
    steps.value = before ? [...steps.value, ...data.steps] : data.steps
    earlier.value = data.earlier
    read.value = true
  } catch {
    failed.value = AWAY
  }
}
watch(
  () => [job.id, job.past === null ? job.view?.revision : 0],
  () => job.id && job.past === null && void fetchSteps(),
  { immediate: true },
)
const latest = computed(() => steps.value[0]?.revision)
const when = (iso: string) => new Date(iso).toLocaleString(undefined, { dateStyle: 'medium', timeStyle: 'short' })

async function look(revision: number, at: string, by: string | null) {
  if (await job.lookBack({ revision, words: [when(at), by].filter(Boolean).join(', by ') }))
    await router.push({ name: stageFor('opening'), params: { id: job.id } })
}
</script>

<template>
  <section aria-label="History">
    <h2 class="text-xl">What was changed, when, by whom</h2>
    <p class="mb-3 text-dim">The latest first. Any state can be looked at, and taken back; taking back is a change like any other.</p>
    <p v-if="failed" class="my-3 text-brick" role="alert">
      {{ failed }} <button type="button" class="btn" @click="fetchSteps()">Try again</button>
    </p>
    <p v-else-if="!read" class="text-dim" role="status">Reading …</p>
    <ol>
      <li
        v-for="s in steps"
        :key="s.revision"
        class="grid grid-cols-[11rem_1fr_auto] gap-x-4 border-b border-line py-2 max-[700px]:grid-cols-1"
        data-testid="step"
      >
        <p>
          {{ when(s.at) }}<br /><span class="text-sm text-dim">{{ s.by ?? 'at the shop’s machine' }}</span>
        </p>
        <div class="min-w-0">
          <p v-if="s.kind !== 'changed'" class="font-semibold first-letter:uppercase">{{ s.kind }}</p>
          <p v-for="l in s.lines" :key="l.what" class="break-words">
            {{ l.what
            }}<template v-if="l.from || l.to"
              >: <span class="num">{{ l.from ?? 'nothing' }}</span> → <b class="num">{{ l.to ?? 'taken out' }}</b></template
            >
          </p>
          <p v-if="s.more" class="text-dim">and {{ s.more }} more</p>
        </div>
        <span v-if="s.revision === latest" class="self-center text-dim">as it is now</span>
        <button v-else type="button" class="btn self-center" @click="look(s.revision, s.at, s.by)">Look at it</button>
      </li>
    </ol>
    <button v-if="earlier" type="button" class="btn mt-3" @click="fetchSteps(earlier)">Earlier</button>
  </section>
</template>
