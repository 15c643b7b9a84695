<script setup lang="ts">
import type { Schemas } from '../api/client'
import TableIn from '../ui/TableIn.vue'

/** A price list, looked over before it comes in. */
defineProps<{
  open: boolean
  send: (text: string, accept: boolean) => Promise<{ data?: Schemas['PriceTable']; error?: { message: string } }>
}>()
defineEmits<{ close: []; taken: [] }>()
</script>

<template>
  <TableIn
    :open="open"
    title="Take in a price list"
    hint="CSV file; its first line names the columns: article, name, price, and, where they are known, currency, pack, lead days, category, part"
    :send="send"
    @close="$emit('close')"
    @taken="$emit('taken')"
  />
</template>
