<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, type Schemas } from '../../api/client'
import { fileBody, useFileSent } from '../../state/useFileSent'
import { useJob } from '../../state/useJob'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import ToneNote from '../../ui/ToneNote.vue'

/** A photograph before and one after: laid over each other only where both were exposed alike. */
const props = defineProps<{ beam: 'low' | 'high'; pair?: Schemas['PicturePair'] }>()
const job = useJob()
const SIDES = [
  { key: 'before', label: 'As it came in' },
  { key: 'after', label: 'After the change' },
] as const
const share = ref(50)
const sent = useFileSent<'before' | 'after'>()
const { busy, failed } = sent
/** Pictures whose bytes are not here: the job file came without them. */
const lost = ref<string[]>([])
const lose = (id: string) => lost.value.push(id)
const laid = computed(
  () => props.pair?.comparable && ![props.pair.before?.id, props.pair.after?.id].some((id) => id && lost.value.includes(id)),
)
const shown = computed(() => SIDES.map((s) => ({ ...s, picture: props.pair?.[s.key] ?? null })))
const address = (id: string) => `/api/jobs/${job.id}/attachments/${id}`

const take = (event: Event, side: 'before' | 'after') =>
  sent.take(event, side, (file, name, revision) =>
    api.POST('/api/jobs/{id}/photographs', {
      params: { path: { id: job.id }, query: { beam: props.beam, side, revision, name } },
      ...fileBody(file),
    }),
  )
</script>

<template>
  <section class="mt-6" aria-labelledby="pictures-head" data-testid="pictures">
    <h3 id="pictures-head" class="mb-1 text-lg">Photographs</h3>
    <p class="mb-2 text-dim">
      One before, one after, from one spot, exposure locked. A camera left to itself corrects itself. JPEG or HEIC, up to 15 MB; where it
      was taken is not kept.
    </p>
    <FailNote :text="failed" />
    <ToneNote v-if="pair?.words" :tone="pair.comparable ? 'good' : 'bad'" class="mb-2 font-semibold" data-testid="pair-verdict">
      {{ pair.words }} <span v-for="n in pair.notes" :key="n" class="block font-normal">{{ n }}</span>
    </ToneNote>
    <figure v-if="laid && pair?.before && pair.after" class="mb-3 max-w-3xl" data-testid="slider">
      <div class="relative overflow-hidden border border-line">
        <img :src="address(pair.after.id)" alt="After the change" class="block w-full" @error="lose(pair.after.id)" />
        <img
          :src="address(pair.before.id)"
          alt="As it came in"
          class="absolute inset-0 h-full w-full object-cover"
          :style="{ clipPath: `inset(0 ${100 - share}% 0 0)` }"
          @error="lose(pair.before.id)"
        />
        <div class="pointer-events-none absolute inset-y-0 w-1 bg-brass" :style="{ left: `calc(${share}% - 2px)` }" />
      </div>
      <label for="picture-share" class="flex items-center gap-3 py-2">
        <span>before</span>
        <input id="picture-share" v-model.number="share" type="range" min="0" max="100" class="h-11 flex-1 accent-brass" />
        <span>after</span>
      </label>
    </figure>
    <div class="grid gap-4 min-[700px]:grid-cols-2">
      <div v-for="s in shown" :key="s.key">
        <h4 class="font-semibold">{{ s.label }}</h4>
        <EmptyBox v-if="s.picture && lost.includes(s.picture.id)" class="mb-1">
          The picture itself is not here: the job file came without it. How it was exposed is kept.
        </EmptyBox>
        <img
          v-else-if="s.picture && !laid"
          :src="address(s.picture.id)"
          :alt="s.label"
          class="mb-1 block w-full border border-line"
          @error="lose(s.picture.id)"
        />
        <p v-if="s.picture" class="num mb-1 text-sm">
          {{ s.picture.exposure || 'does not say how it was exposed'
          }}<span v-if="s.picture.taken" class="text-dim">, {{ s.picture.taken.replace('T', ' ') }}</span>
        </p>
        <div class="flex flex-wrap gap-2">
          <label class="btn" :class="busy === s.key ? 'text-dim' : ''">
            {{ busy === s.key ? 'Taking it in…' : s.picture ? 'Another photograph' : 'Choose a photograph' }}
            <input
              type="file"
              accept="image/jpeg,image/heic,image/heif,.heic,.heif"
              class="sr-only"
              :aria-label="`Photograph, ${s.label.toLowerCase()}`"
              :disabled="busy !== null"
              @change="take($event, s.key)"
            />
          </label>
          <button v-if="s.picture" type="button" class="btn" @click="job.edit([{ op: 'remove', at: `/beam/photographs/${s.picture.id}` }])">
            Remove
          </button>
        </div>
      </div>
    </div>
  </section>
</template>
