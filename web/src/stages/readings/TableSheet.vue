<script setup lang="ts">
import { api, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import ChoiceRow from '../../ui/ChoiceRow.vue'
import TableIn from '../../ui/TableIn.vue'

const KINDS = [
  { key: 'readings', label: 'Readings' },
  { key: 'loads', label: 'Loads' },
] as const
const props = defineProps<{ kind: 'loads' | 'readings' | null }>()
defineEmits<{ close: []; kind: ['loads' | 'readings'] }>()
const job = useJob()

const send = (text: string, accept: boolean) =>
  api.POST('/api/jobs/{id}/table', {
    params: { path: { id: job.id } },
    body: { kind: props.kind!, text, accept, revision: job.view?.revision },
  })
function taken({ change }: Schemas['TablePreview']) {
  if (change) job.apply(change)
}
</script>

<template>
  <TableIn
    :open="kind !== null"
    title="Take in a table"
    hint="CSV file; the first line names the columns, units in brackets"
    :kind="kind"
    :send="send"
    @close="$emit('close')"
    @taken="taken"
  >
    <ChoiceRow class="mb-3" label="What the table holds" :options="KINDS" :value="kind ?? undefined" @pick="$emit('kind', $event)" />
  </TableIn>
</template>
