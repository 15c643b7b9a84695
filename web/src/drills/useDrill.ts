import { computed, ref, shallowRef, watch, type Ref } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import { makeLane } from '../state/lane'

export type Act = Omit<Schemas['DrillActIn'], 'n'>

/** One drill as it stands; what is done at it goes one after the other. */
export function useDrill(id: Ref<string>) {
  const view = shallowRef<Schemas['DrillView'] | null>(null)
  const failed = ref('')
  /** What was refused: nothing was spent on it. */
  const refused = ref('')
  const busy = ref(false)
  const lane = makeLane()
  let turn = 0

  async function fetch() {
    const mine = ++turn
    failed.value = ''
    try {
      const { data, error } = await api.GET('/api/drills/{id}', { params: { path: { id: id.value } } })
      if (mine !== turn) return
      if (data) view.value = data
      else failed.value = (error as { message?: string } | undefined)?.message ?? 'The drill could not be read.'
    } catch {
      if (mine === turn) failed.value = AWAY
    }
  }
  watch(id, () => ((view.value = null), void fetch()), { immediate: true })

  const said = (error: Schemas['Refusal']) =>
    [error.message, ...error.fields.map((f) => `${f.message}${f.accepts ? `; accepted: ${f.accepts}` : ''}.`), error.kept]
      .filter(Boolean)
      .join(' ')

  /** Sends, puts what is answered in place, says what was refused. @returns whether it was done */
  function sent<T>(
    ask: () => Promise<{ data?: T; error?: unknown; response: Response }>,
    put: (data: T) => Schemas['DrillView'],
  ): Promise<boolean> {
    return lane(async () => {
      busy.value = true
      refused.value = ''
      try {
        const { data, error, response } = await ask()
        if (data) view.value = put(data)
        else refused.value = said(error as Schemas['Refusal'])
        // Another window was first.
        if (response.status === 409) await fetch()
        return data !== undefined
      } catch {
        refused.value = AWAY
        return false
      } finally {
        busy.value = false
      }
    })
  }
  const path = () => ({ path: { id: id.value } })
  const act = (body: Act) =>
    sent(
      () => api.POST('/api/drills/{id}/acts', { params: path(), body: { ...body, n: view.value?.play?.n ?? 0 } }),
      (data) => ({ ...view.value!, drill: data.drill, play: data.play }),
    )
  const answer = (given: Record<string, string | number>) =>
    sent(
      () => api.POST('/api/drills/{id}/answer', { params: path(), body: { answer: given } }),
      (data) => data,
    )

  /** What every light looked like when last somebody looked, and whether anything has moved since. */
  const looked = computed(() => {
    const entries = view.value?.play?.entries ?? []
    const last = entries.findLastIndex((e) => e.looks !== null)
    return last < 0
      ? null
      : {
          looks: entries[last].looks!,
          lines: entries[last].lines,
          words: entries[last].words,
          since: entries.slice(last + 1).some((e) => e.moves),
        }
  })

  return { view, failed, refused, busy, act, answer, fetch, looked }
}
