<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRoute } from 'vue-router'
import { api, ofJob, type Schemas } from '../api/client'
import { fileBody } from '../state/useFileSent'
import { useJob } from '../state/useJob'
import { useStageView } from '../state/useStageView'
import Caution from '../ui/Caution.vue'
import ChoiceRow from '../ui/ChoiceRow.vue'
import FailNote from '../ui/FailNote.vue'
import QuantityField from '../ui/QuantityField.vue'
import TextField from '../ui/TextField.vue'
import YesNo from '../ui/YesNo.vue'
import StandingMark from './StandingMark.vue'

/** A look again as a short ticket: look, pull, read, photograph, aim again. */
const route = useRoute()
const job = useJob()
const { view, failed } = useStageView('hand_over')
const key = computed(() => String(route.params.recheck))
const look = computed<Schemas['Recheck'] | undefined>(() => view.value?.rechecks.find((r) => r.id === key.value))
const row = computed(() => job.document?.rechecks?.find((r) => r.id === key.value))
const at = computed(() => `/rechecks/${key.value}`)
const SEEN = [
  { key: 'ok', label: 'as it should be' },
  { key: 'loose', label: 'loose' },
  { key: 'dim', label: 'dim' },
  { key: 'dead', label: 'dead' },
] as const
const seen = (lamp: string) => row.value?.found?.find((f) => f.id === lamp)?.saw

function see(lamp: string, saw: (typeof SEEN)[number]['key']) {
  job.edit([{ op: 'put', at: `${at.value}/found`, value: { ...row.value?.found?.find((f) => f.id === lamp), id: lamp, saw } }])
}
function allWell() {
  const lamps = look.value?.lamps.filter((l) => !l.saw) ?? []
  if (lamps.length) job.edit(lamps.map((l) => ({ op: 'put' as const, at: `${at.value}/found`, value: { id: l.id, saw: 'ok' } })))
}
const sent = ref('')
async function photograph(event: Event) {
  const input = event.target as HTMLInputElement
  const file = input.files?.[0]
  input.value = ''
  if (!file) return
  sent.value = 'sending …'
  const done = await job.send((revision) =>
    api.POST('/api/jobs/{id}/rechecks/{recheck}/photographs', {
      params: { path: { id: job.id, recheck: key.value }, query: { revision, name: file.name.slice(0, 120) } },
      ...fileBody(file),
    }),
  )
  sent.value = done ? '' : job.message
}
const photographs = computed(() => row.value?.photographs ?? [])
</script>

<template>
  <div class="max-w-[880px]">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <RouterLink to="/rechecks" class="btn btn-bare">‹ rechecks</RouterLink>
      <h2 class="mr-auto text-xl">Look again</h2>
      <StandingMark v-if="look" :standing="look.standing" :words="look.words" class="text-lg" />
    </div>
    <FailNote v-if="failed" :text="failed" />
    <p v-if="view && !row" class="border-l-4 border-brick bg-brick-soft p-3" role="alert">
      There is no such look again on this machine (any more).
      <RouterLink class="underline" to="/rechecks">To what falls due</RouterLink>
    </p>
    <template v-if="look && row">
      <p class="text-2xl leading-snug font-bold">{{ look.what }}</p>
      <p class="mb-3 text-dim">{{ look.why }}</p>
      <Caution of="lamp_hot" class="mb-3" />
      <section v-if="look.lamps.length" aria-labelledby="look-lamps" class="mb-4">
        <div class="mb-1 flex flex-wrap items-center gap-3">
          <h3 id="look-lamps" class="text-lg font-bold">Look, pull</h3>
          <button type="button" class="btn" :disabled="look.lamps.every((l) => l.saw)" @click="allWell">
            The rest are as they should be
          </button>
        </div>
        <ul>
          <li v-for="l in look.lamps" :key="l.id" class="flex flex-wrap items-center gap-3 border-b border-line py-2">
            <span class="min-w-0 flex-1"
              ><span class="font-semibold">{{ l.name }}</span
              ><span class="block text-sm text-dim">{{ l.part }}</span></span
            >
            <ChoiceRow :label="l.name" :options="SEEN" :value="seen(l.id)" @pick="see(l.id, $event)" />
          </li>
        </ul>
        <YesNo :at="`${at}/pulled`" label="Pulled at each, and tightened" />
      </section>
      <section aria-labelledby="look-read" class="mb-4">
        <h3 id="look-read" class="mb-1 text-lg font-bold">Read</h3>
        <div class="grid gap-4 sm:grid-cols-3">
          <QuantityField :at="`${at}/volts`" label="Volts, idling, lit" unit="V" />
          <QuantityField :at="`${at}/key_off_a`" label="Key-off draw" unit="A" :step="0.001" />
          <QuantityField :at="`${at}/distance_km`" label="Distance" unit="km" :step="10" />
        </div>
      </section>
      <section aria-labelledby="look-photo" class="mb-4">
        <h3 id="look-photo" class="mb-1 text-lg font-bold">Photograph</h3>
        <div class="flex flex-wrap items-center gap-3">
          <label class="btn cursor-pointer">
            Take one<input type="file" accept="image/*" capture="environment" class="sr-only" @change="photograph" />
          </label>
          <span v-if="sent" class="text-dim" role="status">{{ sent }}</span>
          <a v-for="p in photographs" :key="p.id" :href="ofJob(job.id, `attachments/${p.id}`)" target="_blank" rel="noopener">
            <img :src="ofJob(job.id, `attachments/${p.id}`)" :alt="p.name ?? 'photograph'" class="h-24 border border-line" />
          </a>
        </div>
      </section>
      <YesNo :at="`${at}/aimed`" label="Aimed again" />
      <TextField :at="`${at}/note`" label="Note" :lines="2" class="my-3" />
      <div class="flex flex-wrap items-center gap-3">
        <button v-if="!row.done_on" type="button" class="btn btn-main" @click="job.act('recheck_done', key)">Done</button>
        <template v-else>
          <span class="font-semibold text-moss">Done on {{ row.done_on }}.</span>
          <button type="button" class="btn" @click="job.set(`${at}/done_on`, null)">Not done after all</button>
        </template>
        <RouterLink class="btn btn-bare" :to="{ name: 'machine', params: { id: job.document?.machine_id ?? job.id } }">its book</RouterLink>
      </div>
    </template>
  </div>
</template>
