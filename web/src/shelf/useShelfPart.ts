import { reactive, ref, watch, type Ref } from 'vue'
import { api, AWAY, type Edit, type FieldError, type Schemas } from '../api/client'
import { useShelf } from '../parts/useShelf'
import { makeLane } from '../state/lane'
import { useMe } from '../state/useMe'
import type { Editor } from '../state/useEditor'
import { valueAt } from '../state/valueAt'

/** How long a pause in typing is before it is sent, ms. */
const PAUSE = 350

/** One part of the shelf as something its fields edit: saved as it is typed, refused texts kept in their field. */
export function useShelfPart(kept: Ref<Schemas['ShelfPart'] | undefined>, saved: (part: Schemas['ShelfPart']) => void) {
  const shelf = useShelf()
  const me = useMe()
  const inLane = makeLane()
  const drafts = reactive<Record<string, string>>({})
  const errors = reactive<Record<string, FieldError | undefined>>({})
  const waiting = new Map<string, { timer: ReturnType<typeof setTimeout>; edit: Edit }>()
  const failed = ref('')

  watch(
    () => kept.value?.id,
    () => {
      for (const place of Object.keys(drafts)) delete drafts[place]
      for (const place of Object.keys(errors)) delete errors[place]
    },
  )

  async function send(id: string, edits: Edit[]) {
    const places = edits.map((e) => e.at)
    const said = places.map((p) => drafts[p])
    await inLane(async () => {
      try {
        const { data, error } = await api.PATCH('/api/parts/{id}', { params: { path: { id } }, body: { edits } })
        failed.value = error && error.fields.length === 0 ? error.message : ''
        for (const e of error?.fields ?? []) errors[e.at] = e
        if (!data) return
        // What was typed on while this was under way stays.
        places.forEach((p, i) => {
          if (drafts[p] === said[i]) delete drafts[p]
          delete errors[p]
        })
        shelf.version += 1
        saved(data)
      } catch {
        failed.value = `${AWAY} What you typed stays in its field; touch it again to send it.`
      }
    })
  }

  function flush() {
    for (const [place, { timer, edit }] of waiting) {
      clearTimeout(timer)
      waiting.delete(place)
      if (kept.value) void send(kept.value.id, [edit])
    }
  }

  const editor: Editor = {
    drafts,
    errors,
    problems: {},
    get readonly() {
      return !me.mayChange
    },
    at: (place) => valueAt({ part: kept.value?.part } as never, place),
    type(place, text, sent) {
      if (!kept.value) return
      const id = kept.value.id
      drafts[place] = text
      clearTimeout(waiting.get(place)?.timer)
      const edit: Edit = { op: 'set', at: place, value: sent ?? text }
      const timer = setTimeout(() => {
        waiting.delete(place)
        void send(id, [edit])
      }, PAUSE)
      waiting.set(place, { timer, edit })
    },
    edit: (edits) => void (kept.value && send(kept.value.id, edits)),
    set: (place, value) => void (kept.value && send(kept.value.id, [{ op: 'set', at: place, value }])),
  }

  return { editor, failed, flush }
}
