<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../../state/useJob'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'
import type { Cell } from './useCard'

/** One place of the tray: what lies there, what went back, what is missing. */
const props = defineProps<{ cell: Cell; plain?: boolean }>()
const emit = defineEmits<{ place: [facts: Record<string, unknown>] }>()
const job = useJob()
const at = computed(() => `/card/fasteners/${props.cell.id}`)
const put = (key: 'back' | 'lost', value: number) => emit('place', { [key]: Math.max(0, value) })
</script>

<template>
  <section class="border-2 border-brass p-3" :aria-label="`Place ${cell.place}`" data-testid="tray-place">
    <p class="mb-2 text-lg">
      <b class="num">{{ cell.place }}</b> {{ [`${cell.count} × ${cell.name}`, cell.from, ...cell.beside].filter(Boolean).join(', ') }}
    </p>
    <div class="flex flex-wrap items-center gap-2">
      <button type="button" class="btn min-h-14" :disabled="job.readonly || cell.left === 0" @click="put('back', cell.count - cell.lost)">
        All back
      </button>
      <button type="button" class="btn min-h-14" :disabled="job.readonly" @click="put('back', cell.back + 1)">One back</button>
      <button type="button" class="btn min-h-14" :disabled="job.readonly || !cell.back" @click="put('back', cell.back - 1)">
        One out again
      </button>
      <button type="button" class="btn min-h-14" :disabled="job.readonly" @click="put('lost', cell.lost + 1)">One is missing</button>
      <button v-if="cell.lost" type="button" class="btn min-h-14" :disabled="job.readonly" @click="put('lost', cell.lost - 1)">
        Found one
      </button>
    </div>
    <template v-if="!plain">
      <button v-if="!cell.kept" type="button" class="btn mt-3" :disabled="job.readonly" @click="emit('place', {})">
        It is another: say what came out
      </button>
      <div v-else class="mt-3 grid grid-cols-2 gap-3 sm:grid-cols-4">
        <QuantityField :at="`${at}/count`" label="How many" unit="" :step="1" />
        <TextField :at="`${at}/thread`" label="Thread" />
        <QuantityField :at="`${at}/length_m`" label="Length" unit="m" small :step="1" />
        <TextField :at="`${at}/drive`" label="Drive" />
        <TextField :at="`${at}/size`" label="Size of the drive" />
        <QuantityField :at="`${at}/spacer_m`" label="Spacer" unit="m" small :step="1" />
        <TextField :at="`${at}/insert`" label="Insert" />
        <TextField :at="`${at}/clip`" label="Clip" />
        <TextField :at="`${at}/from`" label="Where from" class="col-span-2" />
        <TextField :at="`${at}/side`" label="Side" />
        <YesNo :at="`${at}/washer`" label="washer" />
      </div>
    </template>
  </section>
</template>
