<script setup lang="ts">
import LearntNote from '../../parts/LearntNote.vue'
import type { Schemas } from '../../api/client'
import { useReference } from '../../state/useReference'
import FigureValue from '../../ui/FigureValue.vue'
import { minutes, money, toneOf } from '../../ui/format'

/** Parts in a lamp's place: whether each goes in, what it draws, saves and leaves. */
defineProps<{ offers: Schemas['PartOffer'][]; head: string; fitted?: string }>()
const emit = defineEmits<{
  fit: [offer: Schemas['PartOffer']]
  hold: [offer: Schemas['PartOffer']]
  drop: [choice: string]
  edit: [choice: string]
}>()
const reference = useReference()
const word = (f: Schemas['PartOffer']['functions'][number], all: number) => (all > 1 ? f.word : null)
</script>

<template>
  <div class="overflow-x-auto">
    <table class="sheet w-full">
      <thead>
        <tr>
          <th>{{ head }}</th>
          <th class="r">draws</th>
          <th class="r">saves</th>
          <th class="r">then kept</th>
          <th class="r">price, time</th>
          <th><span class="sr-only">fit it</span></th>
        </tr>
      </thead>
      <tbody>
        <tr
          v-for="o in offers"
          :key="o.choice ?? o.shelf_id ?? o.part.name"
          :class="o.choice && o.choice === fitted ? 'bg-shade' : ''"
          :data-part="o.part.name"
        >
          <td class="w-full min-w-44">
            <span class="font-semibold">{{ o.part.name }}</span>
            <span class="block text-sm"
              ><span class="font-semibold" :class="toneOf(o.fit)">{{ reference.fit(o.fit) }}</span
              ><span v-if="o.reasons.length" class="text-dim">: {{ o.reasons.join('; ') }}</span></span
            >
            <span v-if="o.part.note" class="block text-sm text-dim">{{ o.part.note }}</span>
            <LearntNote :findings="o.learnt" :part="o.part.name" :most="2" />
            <button
              v-if="o.choice"
              type="button"
              class="min-h-11 text-sm underline underline-offset-4"
              :aria-label="`Edit ${o.part.name}`"
              @click="emit('edit', o.choice)"
            >
              edit
            </button>
          </td>
          <td class="r">
            <span v-for="f in o.functions" :key="f.load_id" class="block whitespace-nowrap">
              <span v-if="word(f, o.functions.length)" class="mr-2 text-sm text-dim">{{ word(f, o.functions.length) }}</span>
              <span v-if="f.how !== 'part'" class="text-sm text-dim">{{ reference.takenOver[f.how] }}</span>
              <FigureValue v-else :figure="f.amps" :name="`${o.part.name} draws`" fine />
            </span>
          </td>
          <td class="r">
            <span
              v-for="f in o.functions"
              :key="f.load_id"
              class="block whitespace-nowrap"
              :class="(f.saving.value ?? 0) < 0 ? 'text-brick' : ''"
            >
              <FigureValue :figure="f.saving" name="Saves" sign fine bare />
            </span>
          </td>
          <td class="r font-bold" :class="toneOf(o.verdict)" :title="reference.verdict(o.verdict)">
            <FigureValue :figure="o.keeps" name="Then kept" bare />
          </td>
          <td class="r num text-sm whitespace-nowrap">
            {{ money(o.part.price_cents) }}<span v-if="(o.part.pack ?? 1) > 1" class="text-dim"> for {{ o.part.pack }}</span
            ><span class="block text-dim">{{ minutes(o.part.minutes) }} min</span>
          </td>
          <td class="r">
            <div class="flex flex-col items-end gap-1">
              <button
                type="button"
                class="btn"
                :class="o.choice && o.choice === fitted ? '' : 'btn-main'"
                :aria-pressed="!!o.choice && o.choice === fitted"
                :aria-label="`Fit ${o.part.name}`"
                @click="emit('fit', o)"
              >
                {{ o.choice && o.choice === fitted ? 'chosen' : 'Fit' }}
              </button>
              <button v-if="!o.choice" type="button" class="btn" :aria-label="`Hold ${o.part.name} against it`" @click="emit('hold', o)">
                Try
              </button>
              <button v-else type="button" class="btn btn-bare" :aria-label="`Take ${o.part.name} away`" @click="emit('drop', o.choice)">
                ✕
              </button>
            </div>
          </td>
        </tr>
      </tbody>
    </table>
  </div>
</template>
