<script setup lang="ts">
import { computed, ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, freshId, type Part, type Schemas } from '../../api/client'
import PartFields from '../../parts/PartFields.vue'
import { useShelf } from '../../parts/useShelf'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import FailNote from '../../ui/FailNote.vue'
import { focusOn } from '../../ui/focusOn'
import { stageFor } from '../registry'
import OfferRows from './OfferRows.vue'

/** What a lamp gets: as it is, off, or a part; parts held against each other before. */
const props = defineProps<{ lamp: Schemas['LampView']; loads: { id: string; role: string }[]; learnt: Schemas['ChooseView']['learnt'] }>()
const job = useJob()
const router = useRouter()
const shelf = useShelf()
const all = ref(false)
const find = ref('')
const open = ref<string | null>(null)
const { data, failed } = useFetched([() => props.lamp.id, () => job.view?.revision, () => job.scenario, () => shelf.version], () => {
  const query = { lamp: props.lamp.id, scenario: job.scenario }
  return api.GET('/api/jobs/{id}/options', { params: { path: { id: job.id }, query } })
})
const mine = computed(() => (data.value?.lamp === props.lamp.id ? data.value : null))
const choices = computed(() => job.document!.choices.filter((c) => c.position_id === props.lamp.id))
const choice = computed(() => choices.value.find((c) => c.action !== 'try'))
const edited = computed(() => choices.value.find((c) => c.id === open.value && c.part))
const words = computed(() => find.value.toLowerCase().split(/\s+/).filter(Boolean))
const shown = computed(() =>
  (mine.value?.shelf ?? []).filter(
    (o) =>
      (all.value || o.fit !== 'no') &&
      words.value.every((w) => `${o.part.name} ${o.part.base ?? ''} ${o.part.note ?? ''}`.toLowerCase().includes(w)),
  ),
)
const head = computed(() => props.loads.some((l) => l.role.startsWith('head_')))
const claims = computed(() =>
  Object.fromEntries(
    props.lamp.functions.flatMap((f) => {
      const row = edited.value?.part?.functions?.find((p) => props.lamp.functions.length === 1 || p.does === f.does)
      return row && edited.value?.id === f.choice ? [[row.id, f.claim]] : []
    }),
  ),
)
const added = computed(() => choice.value?.action === 'add')

/** What is decided last counts: what stood before becomes a part tried. */
function decide(action: 'keep' | 'remove' | 'swap', part?: Part) {
  job.edit([{ op: 'add', at: '/choices', value: { id: freshId(), position_id: props.lamp.id, action: put(action), part } }])
}
const put = (action: 'keep' | 'remove' | 'swap') => (action === 'swap' && added.value ? 'add' : action)
function fit(offer: Schemas['PartOffer']) {
  if (offer.choice === choice.value?.id) return
  if (offer.choice) job.edit([{ op: 'set', at: `/choices/${offer.choice}/action`, value: put('swap') }])
  else decide('swap', { ...offer.part, shelf_id: offer.shelf_id ?? undefined })
}
function hold(offer: Schemas['PartOffer']) {
  const part = { ...offer.part, shelf_id: offer.shelf_id ?? undefined }
  job.edit([{ op: 'add', at: '/choices', value: { id: freshId(), position_id: props.lamp.id, action: 'try', part } }])
}
function undecided() {
  if (!choice.value) return
  const at = `/choices/${choice.value.id}`
  job.edit([choice.value.part ? { op: 'set', at: `${at}/action`, value: 'try' } : { op: 'remove', at }])
}
function own() {
  // The lamp stays in hand: deciding would else go on to the next.
  void router.replace({ name: 'choose', params: { id: job.id, subject: props.lamp.id } })
  const id = freshId()
  const brought = props.lamp.functions.filter((f) => props.loads.some((l) => l.id === f.load_id))
  // Both sides' signals of one lamp are one function of its part.
  const does = [...new Set(brought.map((f) => f.does))]
  const functions = does.map((d) => ({ id: freshId(), does: d, figures: [{ id: freshId(), origin: 'maker' }] }))
  const part = { name: `LED for ${props.lamp.name}`.slice(0, 80), base: props.lamp.base ?? undefined, functions }
  job.edit([{ op: 'add', at: '/choices', value: { id, position_id: props.lamp.id, action: put('swap'), part } }])
  show(id)
}
function show(id: string) {
  open.value = open.value === id ? null : id
  if (open.value) focusOn(`/choices/${id}/part/name`)
}
async function keepOnShelf() {
  const part = edited.value?.part
  if (!part) return
  const id = await shelf.put(part)
  if (id) job.edit([{ op: 'set', at: `/choices/${edited.value!.id}/part/shelf_id`, value: id }])
}
</script>

<template>
  <section :aria-label="`Parts for ${lamp.name}`" class="min-w-0">
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <h3 class="mr-auto text-2xl">
        {{ lamp.name }}
        <span class="text-base font-normal text-dim"
          >{{ lamp.count > 1 ? `×${lamp.count}, ` : '' }}{{ lamp.base ? `base ${lamp.base}` : '' }}</span
        >
      </h3>
      <button type="button" class="btn" :aria-pressed="choice?.action === 'keep'" @click="decide('keep')">Leave as it is</button>
      <button type="button" class="btn" :aria-pressed="choice?.action === 'remove'" @click="decide('remove')">Take it off</button>
      <button type="button" class="btn" @click="own">Type one in</button>
      <button v-if="choice" type="button" class="btn btn-bare" @click="undecided">undecided</button>
    </div>
    <div v-if="lamp.count > 1 || (choice && (lamp.other_side.length || lamp.alike.length))" class="mb-2 flex flex-wrap items-center gap-2">
      <button v-if="choice && lamp.other_side.length" type="button" class="btn" @click="job.act('same', `${lamp.id}/other_side`)">
        Same on the other side
      </button>
      <button
        v-if="choice && lamp.alike.length > lamp.other_side.length"
        type="button"
        class="btn"
        :title="lamp.alike.join(', ')"
        @click="job.act('same', `${lamp.id}/alike`)"
      >
        Same on all {{ lamp.alike.length + 1 }}
      </button>
      <button v-if="lamp.count > 1" type="button" class="btn" @click="job.act('split', lamp.id)">
        Decide each of the {{ lamp.count }} by itself
      </button>
    </div>
    <FailNote :text="failed || shelf.failed" />
    <div v-if="edited?.part" class="mb-5 border-l-4 border-brass bg-leaf p-3" data-testid="own-part">
      <PartFields :at="`/choices/${edited.id}/part`" :part="edited.part" :head="head" :claims="claims" />
      <div class="mt-3 flex flex-wrap gap-2">
        <button type="button" class="btn btn-main" @click="open = null">Done</button>
        <button type="button" class="btn" @click="keepOnShelf">Put it on the shelf</button>
      </div>
    </div>
    <OfferRows
      v-if="mine?.tried.length"
      class="mb-4"
      head="held against it"
      :offers="mine.tried"
      :fitted="choice?.id"
      data-testid="tried"
      @fit="fit"
      @drop="(id) => job.edit([{ op: 'remove', at: `/choices/${id}` }])"
      @edit="show"
    />
    <template v-for="l in learnt" :key="l.choice">
      <p
        v-for="o in l.offers"
        :key="o.key"
        class="mb-2 flex flex-wrap items-center gap-3 border-l-4 border-edge bg-shade px-3 py-1"
        data-testid="learnt-offer"
      >
        <span class="min-w-0 flex-1"
          ><span class="font-semibold">{{ o.name }}</span> {{ o.words }}</span
        >
        <button type="button" class="btn" @click="job.act('take_learnt', o.key)">Reckon with that</button>
      </p>
    </template>
    <p v-if="choice?.part" class="mb-4 flex flex-wrap gap-x-6">
      <RouterLink
        v-for="f in lamp.functions.filter((l) => l.choice === choice?.id)"
        :key="f.load_id"
        class="inline-flex min-h-11 items-center font-semibold text-brass underline underline-offset-4"
        :to="{ name: stageFor('reading'), params: { id: job.id, subject: `${f.load_id}.${choice.id}` } }"
        >Measure {{ choice.part.name }}{{ lamp.functions.length > 1 ? `, ${f.word}` : '' }} on the bench</RouterLink
      >
    </p>
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <label class="sr-only" for="shelf-find">Find on the shelf</label>
      <input id="shelf-find" v-model="find" type="search" class="field max-w-72" placeholder="find on the shelf" autocomplete="off" />
      <button type="button" class="btn btn-bare" :aria-pressed="all" @click="all = !all">
        {{ all ? 'only what could go in' : 'the whole shelf' }}
      </button>
    </div>
    <OfferRows v-if="shown.length" head="on the shelf" :offers="shown" data-testid="options" @fit="fit" @hold="hold" />
    <p v-else-if="mine && !failed" class="py-3 text-dim">Nothing on the shelf goes in here. Type one in, or see the rest of the shelf.</p>
  </section>
</template>
