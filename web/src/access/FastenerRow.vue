<script setup lang="ts">
import type { Schemas } from '../api/client'

/** One kind of fastener that comes out at a step; lengths in millimetres. */
const row = defineModel<Schemas['AccessFastener']>({ required: true })
defineEmits<{ remove: [] }>()
const TEXTS = [
  ['from', 'Where from'],
  ['drive', 'Drive'],
  ['size', 'Size of the drive'],
  ['thread', 'Thread'],
  ['insert', 'Insert'],
  ['clip', 'Clip'],
  ['side', 'Side'],
] as const
const LENGTHS = [
  ['length_m', 'Length, mm'],
  ['spacer_m', 'Spacer, mm'],
] as const

function mm(key: 'length_m' | 'spacer_m', event: Event) {
  const typed = Number((event.target as HTMLInputElement).value.replace(',', '.'))
  row.value = { ...row.value, [key]: typed > 0 ? typed / 1000 : undefined }
}
const shown = (key: 'length_m' | 'spacer_m') => (row.value[key] === undefined ? '' : String(Number((row.value[key]! * 1000).toFixed(2))))
</script>

<template>
  <div class="mt-2 grid grid-cols-2 gap-2 border-t border-line pt-2 sm:grid-cols-6">
    <label><span class="text-dim">How many</span><input v-model.number="row.count" class="field num" inputmode="numeric" /></label>
    <label v-for="[key, label] in TEXTS" :key="key"
      ><span class="text-dim">{{ label }}</span
      ><input v-model="row[key]" class="field" maxlength="60"
    /></label>
    <label v-for="[key, label] in LENGTHS" :key="key"
      ><span class="text-dim">{{ label }}</span
      ><input class="field num" inputmode="decimal" :value="shown(key)" @change="mm(key, $event)"
    /></label>
    <label class="flex min-h-11 items-center gap-2 self-end"><input v-model="row.washer" type="checkbox" class="h-5 w-5" /> washer</label>
    <button type="button" class="btn self-end" @click="$emit('remove')">Take out</button>
  </div>
</template>
