<script setup lang="ts">
import { ref } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import ChoiceRow from '../ui/ChoiceRow.vue'
import FailNote from '../ui/FailNote.vue'
import LooseField from '../ui/LooseField.vue'

/** The shop's money: its currency, its tax, an hour of work. */
defineProps<{ money: Schemas['Money'] }>()
const emit = defineEmits<{ saved: [] }>()
const failed = ref('')
const TAX = [
  { key: 'included', label: 'prices have tax in them' },
  { key: 'added', label: 'tax is added' },
] as const

async function put(money: Schemas['Money']) {
  failed.value = ''
  try {
    const { error } = await api.PATCH('/api/shop', { body: { money } })
    const first = error?.fields?.[0]
    if (error) failed.value = first ? `${first.field}: ${first.message}. Accepted: ${first.accepts}.` : error.message
    else emit('saved')
  } catch {
    failed.value = AWAY
  }
}
</script>

<template>
  <section aria-label="The shop’s money" class="flex flex-wrap items-end gap-3" data-testid="money">
    <LooseField
      class="w-24"
      label="Currency"
      :value="money.currency"
      placeholder="EUR"
      @change="put({ currency: ($event as string) ?? null })"
    />
    <LooseField
      class="w-32"
      label="An hour of work"
      kind="cents"
      :value="money.rate_cents"
      @change="put({ rate_cents: ($event as number) ?? null })"
    />
    <LooseField class="w-24" label="Tax, %" kind="count" :value="money.tax_percent" @change="put({ tax_percent: Number($event ?? 0) })" />
    <LooseField
      class="w-36"
      label="A quote holds, days"
      kind="count"
      :value="money.quote_days"
      @change="put({ quote_days: Number($event ?? 30) })"
    />
    <LooseField
      class="min-w-64 flex-1"
      label="Head of quotes and orders"
      :value="money.heading"
      placeholder="the shop, its address"
      @change="put({ heading: ($event as string) ?? null })"
    />
    <ChoiceRow label="Tax" :options="TAX" :value="money.tax" @pick="(k) => put({ tax: k })" />
    <FailNote :text="failed" />
  </section>
</template>
