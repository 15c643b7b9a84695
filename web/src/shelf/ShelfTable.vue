<script setup lang="ts">
import { api } from '../api/client'
import TableIn from '../ui/TableIn.vue'

/** Parts as a table, looked over before they come in. */
defineProps<{ open: boolean }>()
defineEmits<{ close: []; taken: [] }>()
const send = (text: string, accept: boolean) => api.POST('/api/shelf/table', { body: { text, accept } })
</script>

<template>
  <TableIn
    :open="open"
    title="Take in a table of parts"
    hint="CSV file; the first line names the columns; the shelf’s own CSV shows them"
    :send="send"
    @close="$emit('close')"
    @taken="$emit('taken')"
  />
</template>
