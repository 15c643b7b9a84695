import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api, AWAY, type Part } from '../api/client'

/** The shop's shelf of parts, as far as a screen changes it. */
export const useShelf = defineStore('shelf', () => {
  const failed = ref('')
  /** Goes up with every change, for whoever shows parts of it. */
  const version = ref(0)

  async function asked<T>(
    work: () => Promise<{ data?: T; error?: { message: string; fields?: { field: string; message: string; accepts: string }[] } }>,
  ) {
    try {
      const { data, error } = await work()
      const field = error?.fields?.[0]
      failed.value = error ? (field ? `${error.message} ${field.field}: ${field.message}. Accepted: ${field.accepts}.` : error.message) : ''
      if (!error) version.value += 1
      return data
    } catch {
      failed.value = `${AWAY} Nothing was changed.`
      return undefined
    }
  }

  /** @returns the id under which it is kept, nothing where it was refused */
  async function put(part: Part, id?: string): Promise<string | undefined> {
    const kept = await asked(() => api.POST('/api/parts', { body: { part, id } }))
    return kept?.id
  }

  return { failed, version, asked, put }
})
