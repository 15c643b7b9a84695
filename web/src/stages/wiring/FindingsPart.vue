<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ToneNote from '../../ui/ToneNote.vue'

/** What the rules say against the wiring, each with what would mend it. */
const props = defineProps<{ view: Schemas['WiringView']; shown: number; every: boolean }>()
const emit = defineEmits<{ pick: [load: string] }>()
const job = useJob()
const TONES = { red: 'bad', amber: 'doubt', note: 'plain' } as const
/** The first are what is wrong; what is only good to know stands with all of them. */
const told = computed(() =>
  props.every ? props.view.findings : props.view.findings.filter((f) => f.severity !== 'note').slice(0, props.shown),
)
const subjects = computed(() => new Set(props.view.loads.map((l) => l.id)))
</script>

<template>
  <section aria-label="Findings" class="grid gap-2 min-[1000px]:grid-cols-2" data-testid="wiring-findings">
    <ToneNote v-for="f in told" :key="f.key" :tone="TONES[f.severity]" :data-rule="f.rule">
      <p>
        <b>{{ f.label }}.</b> {{ f.text }}
      </p>
      <p v-if="f.caution" class="mt-1 text-sm">{{ f.caution }}</p>
      <p v-if="f.cures.length || (f.subject && subjects.has(f.subject))" class="no-print mt-2 flex flex-wrap gap-2">
        <button
          v-for="(c, i) in f.cures"
          :key="c"
          type="button"
          class="btn"
          :disabled="job.readonly"
          @click="job.act('wiring_cure', `${f.key}#${i}`)"
        >
          {{ c }}
        </button>
        <button v-if="f.subject && subjects.has(f.subject)" type="button" class="btn btn-bare" @click="emit('pick', f.subject)">
          look at it
        </button>
      </p>
    </ToneNote>
  </section>
</template>
