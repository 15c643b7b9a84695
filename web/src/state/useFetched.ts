import { ref, shallowRef, watch, type WatchSource } from 'vue'
import { AWAY, type Answer } from '../api/client'

/**
 * What the server answers to a question that is asked anew whenever its sources change.
 * An answer to an earlier question than the last is not shown; what is shown stays until
 * the next answer is there. Nothing is asked while the question is null.
 */
export function useFetched<T>(sources: WatchSource<unknown> | WatchSource<unknown>[], ask: () => Promise<Answer<T>> | null, sorry = AWAY) {
  const data = shallowRef<T | null>(null)
  const failed = ref('')
  const busy = ref(false)
  let turn = 0

  async function fetch() {
    const mine = ++turn
    const question = ask()
    if (!question) {
      data.value = null
      failed.value = ''
      busy.value = false
      return
    }
    busy.value = true
    try {
      const answer = await question
      if (mine !== turn) return
      if (answer.data !== undefined) data.value = answer.data
      failed.value = answer.data === undefined ? (answer.error?.message ?? 'That could not be read.') : ''
    } catch {
      if (mine === turn) failed.value = sorry
    } finally {
      if (mine === turn) busy.value = false
    }
  }
  watch(sources, () => void fetch(), { immediate: true, deep: true })

  return { data, failed, busy, fetch }
}
