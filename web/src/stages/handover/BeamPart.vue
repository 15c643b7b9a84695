<script setup lang="ts">
import { computed, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import { useBeam } from '../../state/useBeam'
import { useJob } from '../../state/useJob'
import { useUnits } from '../../state/useUnits'
import { figureText, plain } from '../../ui/format'

/** What the hand-over sheet says of headlight, beam and aim. */
const job = useJob()
const units = useUnits()
const { beam } = useBeam()
const headlight = shallowRef<Schemas['HeadlightView'] | null>(null)
watch(
  () => job.view?.revision,
  async () => {
    if (!job.document!.headlight?.chosen) return void (headlight.value = null)
    try {
      const { data } = await api.GET('/api/jobs/{id}/headlight', { params: { path: { id: job.id } } })
      if (data) headlight.value = data
    } catch {
      // The save mark tells that Miser is away; the sheet goes without.
    }
  },
  { immediate: true },
)
const fitted = computed(() => headlight.value?.candidates.find((c) => c.id === headlight.value?.chosen))
const work = computed(() => (fitted.value?.findings ?? []).filter((f) => f.verdict === 'work').map((f) => f.text))
const pictures = computed(() => (beam.value?.pictures ?? []).filter((p) => p.comparable && p.before && p.after))
/** Each beam with a wall read: its figures before and after, and what they come to. */
const beams = computed(() =>
  (['low', 'high'] as const).flatMap((key) => {
    const sides = (['before', 'after'] as const).flatMap((side) => {
      const figures = beam.value?.walls.find((w) => w.beam === key && w.side === side)?.figures
      if (!figures) return []
      const glare = figures.glare.value
      const above = typeof glare === 'number' ? [`${plain(glare * 100, 0)} % above the cut-off`] : []
      return [`${side} ${[figureText(figures.candela), figureText(figures.lumens), ...above].join(', ')}`]
    })
    if (sides.length === 0) return []
    return [{ beam: key, words: `${sides.join('; ')}. ${beam.value?.comparisons.find((c) => c.beam === key)?.sentence ?? ''}` }]
  }),
)
const aimed = computed(() => {
  const { aim } = job.document!
  if (!aim?.set) return ''
  const drop = job.view?.aim.drop.value
  const at = drop === null || drop === undefined ? '' : `, the cut-off ${metres(drop)} under the lamp at ${metres(aim.distance_m ?? 0)}`
  return `Beam aimed ${plain(Math.abs((job.view?.aim.target ?? 0) * 100), 1)} % down, rider aboard${at}.`
})
function metres(value: number) {
  const l = units.length(value)
  return `${plain(l.value, l.digits)} ${l.unit}`
}
</script>

<template>
  <section v-if="fitted || beams.length || aimed || pictures.length">
    <h3 class="mt-3 mb-1 font-bold">Headlight and beam</h3>
    <ul class="list-disc pl-5 text-[0.95em]" data-testid="beam-lines">
      <li v-if="fitted">
        Fitted: {{ fitted.name }}, {{ fitted.school }}<template v-if="work.length">; {{ work.join('; ') }}</template
        >.
      </li>
      <li v-for="b in beams" :key="b.beam">{{ b.beam === 'low' ? 'Low' : 'High' }} beam on the wall: {{ b.words }}</li>
      <li v-if="aimed">{{ aimed }}</li>
    </ul>
    <div v-for="p in pictures" :key="p.beam" class="mt-2 grid grid-cols-2 gap-2">
      <figure v-for="side in ['before', 'after'] as const" :key="side">
        <img
          :src="`/api/jobs/${job.id}/attachments/${p[side]!.id}`"
          :alt="`${p.beam} beam ${side}`"
          class="block max-h-40 w-full object-cover"
        />
        <figcaption class="text-sm text-dim">{{ p.beam }} beam, {{ side }}: {{ p[side]!.exposure }}</figcaption>
      </figure>
    </div>
  </section>
</template>
