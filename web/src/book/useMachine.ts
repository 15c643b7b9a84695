import { reactive, ref, shallowRef, watch, type Ref } from 'vue'
import { api, AWAY, type Edit, type FieldError, type Schemas } from '../api/client'
import { makeLane } from '../state/lane'
import type { Editor } from '../state/useEditor'
import { useMe } from '../state/useMe'
import { valueAt } from '../state/valueAt'

type Book = Schemas['MachineBook']
/** How long a pause in typing is before it is sent, ms. */
const PAUSE = 350

/** A machine of the book, as something its fields edit: saved as it is typed, refused texts kept in their field. */
export function useMachine(id: Ref<string>) {
  const me = useMe()
  const inLane = makeLane()
  const book = shallowRef<Book | null>(null)
  const failed = ref('')
  const drafts = reactive<Record<string, string>>({})
  const errors = reactive<Record<string, FieldError | undefined>>({})
  const waiting = new Map<string, { timer: ReturnType<typeof setTimeout>; edit: Edit; id: string }>()
  const path = (machine: string) => ({ params: { path: { id: machine } } })

  async function fetch() {
    const asked = id.value
    try {
      const { data, error } = await api.GET('/api/machines/{id}', path(asked))
      if (asked !== id.value) return
      if (data) book.value = data
      failed.value = error?.message ?? ''
    } catch {
      if (asked === id.value) failed.value = AWAY
    }
  }
  watch(
    id,
    () => {
      flush()
      book.value = null
      for (const kept of [drafts, errors]) for (const place of Object.keys(kept)) delete kept[place]
      void fetch()
    },
    { immediate: true },
  )

  async function send(machine: string, body: { edits?: Edit[]; gone_on?: string | null; gone_to?: string | null }) {
    const places = (body.edits ?? []).map((e) => e.at)
    const said = places.map((p) => drafts[p])
    await inLane(async () => {
      try {
        const { data, error } = await api.PATCH('/api/machines/{id}', { ...path(machine), body })
        failed.value = error && !('fields' in error && error.fields.length > 0) ? error.message : ''
        for (const e of error && 'fields' in error ? error.fields : []) errors[e.at] = e
        if (!data || machine !== id.value) return
        places.forEach((p, i) => {
          // What was typed on while this was under way stays.
          if (drafts[p] === said[i]) delete drafts[p]
          delete errors[p]
        })
        book.value = data
      } catch {
        failed.value = `${AWAY} What you typed stays in its field; touch it again to send it.`
      }
    })
  }

  function flush() {
    for (const [place, { timer, edit, id: machine }] of waiting) {
      clearTimeout(timer)
      waiting.delete(place)
      void send(machine, { edits: [edit] })
    }
  }

  const editor: Editor = {
    drafts,
    errors,
    problems: {},
    get readonly() {
      return !me.mayChange
    },
    at: (place) => valueAt((book.value?.machine ?? {}) as never, place),
    type(place, text, sent) {
      const machine = id.value
      drafts[place] = text
      clearTimeout(waiting.get(place)?.timer)
      const edit: Edit = { op: 'set', at: place, value: sent ?? text }
      const timer = setTimeout(() => {
        waiting.delete(place)
        void send(machine, { edits: [edit] })
      }, PAUSE)
      waiting.set(place, { timer, edit, id: machine })
    },
    edit: (edits) => void send(id.value, { edits }),
    set: (place, value) => void send(id.value, { edits: [{ op: 'set', at: place, value }] }),
  }

  return {
    book,
    failed,
    editor,
    fetch,
    flush,
    gone: (on: string | null, to: string | null) => send(id.value, { gone_on: on, gone_to: to }),
  }
}
