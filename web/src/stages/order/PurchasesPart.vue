<script setup lang="ts">
import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { money } from '../../ui/format'
import { countOf } from '../../ui/typed'
import WarrantyPart from './WarrantyPart.vue'

/** What was ordered, or taken from the shelf, and what came of it. */
type Purchase = Schemas['OrderView']['purchases'][number]
defineProps<{ purchases: Purchase[] }>()
const job = useJob()
const short = ref<Record<string, string>>({})
const TONES: Record<string, string> = {
  received: 'text-moss',
  shelf: 'text-moss',
  short: 'text-brick',
  wrong: 'text-brick',
  returned: 'text-dim',
  closed: 'text-dim',
}
/** What may come of a line the server says; what the button for it is called, this. */
const OTHERS = [
  { key: 'closed', label: 'the rest is off' },
  { key: 'wrong', label: 'wrong part' },
  { key: 'returned', label: 'sent back' },
]
const came = (row: Purchase, state: string) => void job.act('order_came', `${row.id}/${state}`)

function cameShort(row: Purchase) {
  const got = countOf(short.value[row.id] ?? '')
  if (typeof got !== 'number') return
  void job.act('order_came', `${row.id}/short/${got}`)
  short.value = { ...short.value, [row.id]: '' }
}
</script>

<template>
  <section aria-labelledby="ordered-head" data-testid="purchases">
    <h3 id="ordered-head" class="mb-1 text-lg">Ordered</h3>
    <div class="overflow-x-auto">
      <table class="sheet w-full [&_tbody_td]:align-top">
        <thead>
          <tr>
            <th>what</th>
            <th class="r">packs</th>
            <th class="r">price</th>
            <th>state</th>
            <th><span class="sr-only">what came of it</span></th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="p in purchases" :key="p.id" :data-purchase="p.name" :data-state="p.state">
            <td>
              <b>{{ p.name }}</b>
              <span class="block text-sm text-dim">{{ [p.supplier, p.article].filter(Boolean).join(' ') }}</span>
              <span v-if="!p.needed" class="block text-sm text-brick">The job wants it no more.</span>
              <WarrantyPart v-if="p.state !== 'ordered'" :purchase="p" />
            </td>
            <td class="r whitespace-nowrap">
              <span class="num">{{ p.packs ?? p.pieces }}</span><span v-if="(p.pack ?? 1) > 1" class="text-dim"> of {{ p.pack }}</span>
            </td>
            <td class="r num">{{ money(p.cents) }}</td>
            <td :class="TONES[p.state] ?? ''">
              {{ p.words }}<span v-if="p.got !== null">: {{ p.got }} came</span>
              <span v-if="p.received_on" class="block text-sm text-dim">{{ p.received_on }}</span>
              <span v-if="p.state === 'ordered' && p.due" class="block text-sm whitespace-nowrap text-dim">due {{ p.due }}</span>
            </td>
            <td>
              <div class="flex flex-wrap justify-end gap-2">
                <button v-if="p.next.includes('received')" type="button" class="btn" :disabled="job.readonly" @click="came(p, 'received')">
                  {{ p.state === 'short' ? 'the rest came' : 'came' }}
                </button>
                <form v-if="p.next.includes('short')" class="flex gap-1" @submit.prevent="cameShort(p)">
                  <input
                    v-model="short[p.id]"
                    class="field num w-16"
                    inputmode="numeric"
                    placeholder="pcs"
                    :aria-label="`Pieces of ${p.name} that came`"
                  />
                  <button type="submit" class="btn" :disabled="job.readonly">came short</button>
                </form>
                <template v-for="b in OTHERS" :key="b.key">
                  <button v-if="p.next.includes(b.key)" type="button" class="btn" :disabled="job.readonly" @click="came(p, b.key)">
                    {{ b.label }}
                  </button>
                </template>
                <button
                  type="button"
                  class="btn btn-bare"
                  :disabled="job.readonly"
                  :aria-label="`Take ${p.name} out`"
                  @click="came(p, 'gone')"
                >
                  take out
                </button>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
