<script setup lang="ts">
import { computed, reactive, watch } from 'vue'
import type { Schemas } from '../api/client'
import ToneNote from '../ui/ToneNote.vue'
import { plain } from '../ui/format'
import { numberOf } from '../ui/typed'
import type { useDrill } from './useDrill'

/** Figures, something asked of them, the answer judged. */
const props = defineProps<{ view: Schemas['DrillView']; drill: ReturnType<typeof useDrill> }>()
const question = computed(() => props.view.question!)
const verdict = computed(() => props.view.verdict)
const given = reactive<Record<string, string>>({})
watch(
  () => props.view.drill.id,
  () => {
    for (const key of Object.keys(given)) delete given[key]
    Object.entries(props.view.answer ?? {}).forEach(([key, value]) => (given[key] = String(value)))
  },
  { immediate: true },
)
const values = computed(() => question.value.fields.map((f) => [f, f.options ? given[f.id] : numberOf(given[f.id] ?? '')] as const))
const wrong = (f: Schemas['DrillField']) => !f.options && !!given[f.id] && numberOf(given[f.id]) === null
const ready = computed(() => values.value.every(([, v]) => v !== undefined && v !== null && v !== ''))
const send = () => ready.value && void props.drill.answer(Object.fromEntries(values.value.map(([f, v]) => [f.id, v!])))
function truth(f: Schemas['DrillField']) {
  const t = verdict.value?.truth[f.id]
  return typeof t === 'number' ? `${plain(t, 2)} ${f.unit ?? ''}` : (f.options?.find((o) => o.key === t)?.label ?? '')
}
</script>

<template>
  <section class="mt-3" data-testid="question">
    <p class="mb-3 text-lg">{{ question.ask }}</p>
    <div class="grid grid-cols-1 items-start gap-x-10 gap-y-4 min-[900px]:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
      <div class="overflow-x-auto">
        <table class="sheet w-full">
          <thead>
            <tr>
              <th v-for="c in question.columns" :key="c">{{ c }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(row, i) in question.rows" :key="i">
              <td v-for="(cell, j) in row" :key="j" :class="j ? 'num' : 'font-semibold'">{{ cell }}</td>
            </tr>
          </tbody>
        </table>
      </div>
      <form @submit.prevent="send">
        <div v-for="f in question.fields" :key="f.id" class="mb-3">
          <label v-if="!f.options" class="block">
            <span class="font-semibold">{{ f.label }}</span>
            <span class="flex items-center gap-2">
              <input
                v-model="given[f.id]"
                class="field num max-w-40"
                inputmode="decimal"
                :disabled="!!verdict"
                :aria-invalid="wrong(f)"
                :data-testid="`answer-${f.id}`"
              />
              <span class="unit">{{ f.unit }}</span>
            </span>
            <span v-if="wrong(f)" class="text-brick" role="alert">Not a number. Accepted: 1.8, 1,8, −0.5.</span>
          </label>
          <fieldset v-else :disabled="!!verdict" :data-testid="`answer-${f.id}`">
            <legend class="font-semibold">{{ f.label }}</legend>
            <div :class="f.options.length > 3 ? 'grid' : 'flex flex-wrap gap-x-4'">
              <label v-for="o in f.options" :key="o.key" class="flex min-h-11 items-center gap-3 hover:bg-shade">
                <input v-model="given[f.id]" type="radio" class="h-5 w-5 shrink-0 accent-brass" :name="f.id" :value="o.key" />
                <span>{{ o.label }}</span>
              </label>
            </div>
          </fieldset>
          <p v-if="verdict" class="font-semibold" :class="String(verdict.truth[f.id]) === given[f.id] ? 'text-moss' : 'text-brass'">
            {{ truth(f) }}
          </p>
        </div>
        <p v-if="drill.refused.value" class="mb-2 text-brick" role="alert">{{ drill.refused.value }}</p>
        <button v-if="!verdict" type="submit" class="btn btn-main" :disabled="!ready || drill.busy.value">That is my answer</button>
        <ToneNote v-else :tone="verdict.right ? 'good' : 'bad'" data-testid="verdict">
          <p class="text-lg font-bold">{{ verdict.says }}</p>
          <p v-for="w in verdict.words" :key="w">{{ w }}</p>
        </ToneNote>
        <p v-if="verdict && view.drill.code" class="mt-2">
          To hand it on: <code class="num select-all border border-edge px-2 py-1">{{ view.drill.code }}</code>
        </p>
        <RouterLink v-if="verdict" to="/drills" class="btn mt-2">Another</RouterLink>
      </form>
    </div>
  </section>
</template>
