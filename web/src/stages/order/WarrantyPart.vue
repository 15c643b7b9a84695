<script setup lang="ts">
import { computed } from 'vue'
import { api, freshId, type Schemas } from '../../api/client'
import { fileBody, useFileSent } from '../../state/useFileSent'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import DayField from '../../ui/DayField.vue'
import FailNote from '../../ui/FailNote.vue'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import TextField from '../../ui/TextField.vue'
import YesNo from '../../ui/YesNo.vue'

/** What is promised for a part, its receipt, and what became of those that failed. */
const props = defineProps<{ purchase: Schemas['OrderView']['purchases'][number] }>()
const job = useJob()
const reference = useReference()
const at = computed(() => `/purchases/${props.purchase.id}`)
const claims = computed(() => props.purchase.warranty.claims)
const sent = useFileSent<'receipt'>()
const { busy, failed } = sent
const outcomes = computed(() => Object.entries(reference.tables?.warranty_outcomes ?? {}).map(([key, label]) => ({ key, label })))
type Row = Schemas['OrderView']['purchases'][number]
const receiptOf = (p: Row) => (p.receipt ? `/api/jobs/${job.id}/attachments/${p.receipt.id}` : undefined)

const take = (event: Event) =>
  sent.take(event, 'receipt', (file, name, revision) =>
    api.POST('/api/jobs/{id}/receipts', {
      params: { path: { id: job.id }, query: { purchases: props.purchase.id, revision, name } },
      ...fileBody(file),
    }),
  )
</script>

<template>
  <details class="mt-1" :data-warranty="purchase.name">
    <summary class="min-h-11 cursor-pointer py-2 text-sm" :class="purchase.warranty.state === 'over' ? 'text-brick' : 'text-dim'">
      {{ purchase.warranty.words }}{{ purchase.receipt ? ', receipt kept' : '' }}
      <span v-for="c in claims" :key="c.id" class="block text-brick">claim: {{ c.words }}</span>
    </summary>
    <div class="grid gap-3 py-2 sm:grid-cols-3">
      <QuantityField :at="`${at}/warranty_months`" label="Warranty" unit="months" :step="12" />
      <DayField :at="`${at}/received_on`" label="Came on" />
      <YesNo :at="`${at}/warranty_lifetime`" label="For life" />
    </div>
    <p class="flex flex-wrap items-center gap-3">
      <a v-if="receiptOf(purchase)" class="btn" :href="receiptOf(purchase)" target="_blank" rel="noopener">{{
        purchase.receipt?.name || 'Receipt'
      }}</a>
      <label class="btn" :class="job.readonly || busy ? 'opacity-60' : 'cursor-pointer'"
        >{{ busy ? 'taking it in …' : purchase.receipt ? 'Another receipt' : 'Receipt, photographed or PDF'
        }}<input
          type="file"
          class="sr-only"
          accept="image/jpeg,image/heic,.heic,.heif,application/pdf"
          :disabled="job.readonly || busy !== null"
          @change="take"
      /></label>
    </p>
    <FailNote :text="failed" />
    <div v-for="c in claims" :key="c.id" class="mt-2 border-t border-line pt-2" data-testid="claim">
      <TextField :at="`${at}/claims/${c.id}/defect`" label="What is wrong with it" />
      <div class="mt-2 flex flex-wrap items-end gap-3">
        <DayField :at="`${at}/claims/${c.id}/found_on`" label="Found" />
        <DayField :at="`${at}/claims/${c.id}/sent_on`" label="Sent" />
        <DayField :at="`${at}/claims/${c.id}/back_on`" label="Back" />
        <PickField :at="`${at}/claims/${c.id}/outcome`" label="What came" :options="outcomes" none="nothing yet" />
        <button
          type="button"
          class="btn btn-bare"
          aria-label="Take the claim out"
          @click="job.edit([{ op: 'remove', at: `${at}/claims/${c.id}` }])"
        >
          take out
        </button>
      </div>
    </div>
    <button
      type="button"
      class="btn mt-2"
      :disabled="job.readonly"
      @click="job.edit([{ op: 'add', at: `${at}/claims`, value: { id: freshId() } }])"
    >
      It failed
    </button>
  </details>
</template>
