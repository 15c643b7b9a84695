<script setup lang="ts">
import { ofJob, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'

/** What the hand-over sheet says of headlight, beam and aim. */
defineProps<{ lines: string[]; pictures: Schemas['PicturePair'][] }>()
const job = useJob()
</script>

<template>
  <section v-if="lines.length || pictures.length">
    <h3 class="mt-3 mb-1 font-bold">Headlight and beam</h3>
    <ul class="list-disc pl-5 text-[0.95em]" data-testid="beam-lines">
      <li v-for="line in lines" :key="line">{{ line }}</li>
    </ul>
    <div v-for="p in pictures" :key="p.beam" class="mt-2 grid grid-cols-2 gap-2">
      <figure v-for="side in ['before', 'after'] as const" :key="side">
        <img
          :src="ofJob(job.id, `attachments/${p[side]!.id}`)"
          :alt="`${p.beam} beam ${side}`"
          class="block max-h-40 w-full print:max-h-28 object-cover"
        />
        <figcaption class="text-sm text-dim">{{ p.beam }} beam, {{ side }}: {{ p[side]!.exposure }}</figcaption>
      </figure>
    </div>
  </section>
</template>
