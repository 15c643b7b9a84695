<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, freshId, type Load, type Part, type Schemas } from '../../api/client'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import FigureValue from '../../ui/FigureValue.vue'
import FailNote from '../../ui/FailNote.vue'
import { minutes, money, toneOf } from '../../ui/format'
import { stageFor } from '../registry'
import OwnPart from './OwnPart.vue'

const props = defineProps<{ load: Load; choice?: Schemas['job_choice']; claim?: Schemas['ClaimView'] }>()
const job = useJob()
const reference = useReference()
const all = ref(false)
const { data, failed } = useFetched([() => props.load.id, () => job.view?.revision, () => job.scenario], () => {
  const query = { load: props.load.id, scenario: job.scenario }
  return api.GET('/api/jobs/{id}/options', { params: { path: { id: job.id }, query } })
})
const supplies = computed(() => Object.fromEntries((reference.tables?.supplies ?? []).map((s) => [s.key, s.label])))
const options = computed(() => (data.value?.load === props.load.id ? data.value.options : []))
const shown = computed(() => (all.value ? options.value : options.value.filter((o) => o.fits_base)))

function decide(value: Omit<Schemas['job_choice'], 'id' | 'load_id'>) {
  const choice = { id: freshId(), load_id: props.load.id, ...value }
  job.edit(
    props.choice
      ? [
          { op: 'remove', at: `/choices/${props.choice.id}` },
          { op: 'add', at: '/choices', value: choice },
        ]
      : [{ op: 'add', at: '/choices', value: choice }],
  )
}
function fit(part: Part & { id?: string }) {
  const { id, ...rest } = part
  decide({ action: 'swap', part: { ...rest, shelf_id: id } })
}
function own() {
  decide({
    action: 'swap',
    part: { name: `LED for ${props.load.name}`.slice(0, 80), law: 'driver', figures: [{ id: freshId(), origin: 'maker' }] },
  })
}
const mine = computed(() => props.choice?.action === 'swap' && !props.choice.part?.shelf_id)
</script>

<template>
  <section :aria-label="`Parts for ${load.name}`" class="min-w-0">
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <h3 class="mr-auto text-2xl">
        {{ load.name }} <span v-if="load.base" class="text-base font-normal text-dim">base {{ load.base }}</span>
      </h3>
      <button type="button" class="btn" :aria-pressed="choice?.action === 'keep'" @click="decide({ action: 'keep' })">
        Leave as it is
      </button>
      <button type="button" class="btn" :aria-pressed="choice?.action === 'remove'" @click="decide({ action: 'remove' })">
        Take it off
      </button>
      <button type="button" class="btn" :aria-pressed="mine" @click="own">Type one in</button>
      <button v-if="choice" type="button" class="btn btn-bare" @click="job.edit([{ op: 'remove', at: `/choices/${choice.id}` }])">
        undecided
      </button>
    </div>
    <FailNote :text="failed" />
    <OwnPart v-if="mine && choice" :choice="choice" :claim="claim" />
    <div v-if="shown.length" class="overflow-x-auto">
      <table class="sheet w-full" data-testid="options">
        <thead>
          <tr>
            <th>on the shelf</th>
            <th class="r">draws</th>
            <th class="r">saves</th>
            <th class="r">then kept</th>
            <th class="r">price, time</th>
            <th><span class="sr-only">fit</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="o in shown" :key="o.part.name" :class="choice?.part?.name === o.part.name ? 'bg-shade' : ''">
            <td>
              <span class="font-semibold">{{ o.part.name }}</span>
              <span class="block text-sm text-dim">{{
                [o.part.note, o.part.supply ? supplies[o.part.supply] : '', o.fits_base ? '' : `base ${o.part.base}, not this lamp’s`]
                  .filter(Boolean)
                  .join(' · ')
              }}</span>
            </td>
            <td class="r"><FigureValue :figure="o.amps" name="Draws" fine sigma /></td>
            <td class="r" :class="(o.saving.value ?? 0) < 0 ? 'text-brick' : ''">
              <FigureValue :figure="o.saving" name="Saves" sign fine bare />
            </td>
            <td class="r font-bold" :class="toneOf(o.verdict)" :title="reference.verdict(o.verdict)">
              <FigureValue :figure="o.keeps" name="Then kept" bare />
            </td>
            <td class="r num text-sm whitespace-nowrap">
              {{ money(o.part.price_cents) }}<span class="block text-dim">{{ minutes(o.part.minutes) }} min</span>
            </td>
            <td class="r">
              <button
                type="button"
                class="btn"
                :class="choice?.part?.name === o.part.name ? '' : 'btn-main'"
                :aria-pressed="choice?.part?.name === o.part.name"
                :aria-label="`Fit ${o.part.name}`"
                @click="fit(o.part)"
              >
                {{ choice?.part?.name === o.part.name ? 'chosen' : 'Fit' }}
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <p v-else-if="!failed" class="py-3 text-dim">Nothing on the shelf has this base. Type one in, or see the rest of the shelf.</p>
    <button type="button" class="btn btn-bare mt-2" @click="all = !all">{{ all ? 'only this base' : 'the whole shelf' }}</button>
    <p v-if="choice?.action === 'swap'" class="mt-3">
      <RouterLink
        class="font-semibold text-brass underline underline-offset-4"
        :to="{ name: stageFor('reading'), params: { id: job.id, subject: `${load.id}.${choice.id}` } }"
        >Measure {{ choice.part?.name }} on the bench</RouterLink
      >: then its real draw counts, not its label.
    </p>
  </section>
</template>
