import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { api, type Reference } from '../api/client'

/** The trade's tables and words, fetched once. */
export const useReference = defineStore('reference', () => {
  const tables = shallowRef<Reference | null>(null)
  const roles = computed(() => Object.fromEntries((tables.value?.roles ?? []).map((r) => [r.key, r])))
  const bases = computed(() => Object.fromEntries((tables.value?.bases ?? []).map((b) => [b.key, b])))
  const origins = computed(() => Object.fromEntries((tables.value?.origins ?? []).map((o) => [o.key, o.label])))

  /** A verdict in words. */
  const verdict = (key: string | null | undefined) => (key ? (tables.value?.verdicts[key] ?? key) : 'unknown')
  const fit = (key: string) => tables.value?.fits[key] ?? key

  async function fetchOnce() {
    if (tables.value) return
    const { data } = await api.GET('/api/reference')
    if (data) tables.value = data
  }

  return { tables, roles, bases, origins, verdict, fit, fetchOnce }
})
