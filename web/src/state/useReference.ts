import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { api, type Reference } from '../api/client'

/** The trade's tables and words, fetched once. */
export const useReference = defineStore('reference', () => {
  const tables = shallowRef<Reference | null>(null)
  const roles = computed(() => Object.fromEntries((tables.value?.roles ?? []).map((r) => [r.key, r])))
  const bases = computed(() => Object.fromEntries((tables.value?.bases ?? []).map((b) => [b.key, b])))
  const origins = computed(() => Object.fromEntries((tables.value?.origins ?? []).map((o) => [o.key, o.label])))

  /** How a part takes a function over, in words. */
  const takenOver = computed(() => Object.fromEntries((tables.value?.taken_over ?? []).map((t) => [t.key, t.label])))

  /** Bulb bases to pick from, with their trade number and watts. */
  const baseChoices = computed(() =>
    (tables.value?.bases ?? []).map((b) => ({
      key: b.key,
      label: `${b.key}${b.trade ? ` (${b.trade})` : ''}${b.filaments[0].watts ? `, ${b.filaments.map((f) => f.watts).join('/')} W` : ''}`,
    })),
  )
  /** Filaments of a base to pick from: none where it has but one. */
  function filamentChoices(base: string | undefined) {
    const filaments = base ? (bases.value[base]?.filaments ?? []) : []
    return filaments.length > 1 ? filaments.map((f) => ({ key: f.name, label: f.name })) : []
  }
  const lawChoices = computed(() => (tables.value?.laws ?? []).map((l) => ({ key: l.key, label: l.label })))
  /** Where a figure that somebody states may come from. */
  const statedOrigins = computed(() => (tables.value?.origins ?? []).filter((o) => o.stated))

  /** A verdict in words. */
  const verdict = (key: string | null | undefined) => (key ? (tables.value?.verdicts[key] ?? key) : 'unknown')
  const fit = (key: string) => tables.value?.fits[key] ?? key

  async function fetchOnce() {
    if (tables.value) return
    const { data } = await api.GET('/api/reference')
    if (data) tables.value = data
  }

  return { tables, roles, bases, origins, takenOver, baseChoices, filamentChoices, lawChoices, statedOrigins, verdict, fit, fetchOnce }
})
