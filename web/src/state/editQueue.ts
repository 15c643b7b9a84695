import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import { AWAY, type Edit, type FieldError, type JobChange, type JobView } from '../api/client'
import { keepUnsaved, readUnsaved } from './unsaved'
import { valueAt } from './valueAt'

export type SaveState = 'saved' | 'saving' | 'unsaved' | 'fault' | 'offline' | 'conflict'

/** An answer to edits: taken, or why not. */
export interface Sent {
  data?: JobChange
  error?: { message: string; fields?: FieldError[]; current?: JobView }
  status: number
}

/** The job that the edits are for. */
export interface Desk {
  id: Ref<string>
  view: ShallowRef<JobView | null>
  failed: Ref<string>
  inLane: <T>(work: () => Promise<T>) => Promise<T>
  /** Sends edits made upon a revision; fails where the server is away. */
  send: (job: string, revision: number, edits: Edit[]) => Promise<Sent>
  show: (data: JobView) => void
  apply: (change: JobChange) => void
}

export const REMOVED = 'This job was removed meanwhile.'
const RETRY_MS = 2500
/** Answers of a server that is away or at work for others: the same is taken later. All other noes stay noes. */
const ABSENT = [408, 425, 429, 502, 503, 504]
const FAULT = 500

const rowId = (e: Edit) => (e.value as { id?: string } | null)?.id

/** The figure that a text begins with; in another unit than the field's it is another one, and then asked about. */
const figure = (typed: unknown) => Number.parseFloat(String(typed).replace(',', '.'))

/** What is typed but not yet saved, and the one queue through which every edit goes. */
export function editQueue({ id, view, failed, inLane, send, show, apply }: Desk) {
  const status = ref<SaveState>('saved')
  const message = ref('')
  /** Texts typed into fields that are not saved yet, or were refused. */
  const drafts = ref<Record<string, string>>({})
  /** What each draft was sent as: the text, with the shown unit where it had none. */
  const meant = ref<Record<string, string>>({})
  const errors = ref<Record<string, FieldError>>({})
  /** Whether what is not saved yet would be lost with the window. */
  const unkept = ref(false)
  const queue = ref<Edit[]>([])
  const theirs = shallowRef<JobView | null>(null)
  /** Edits put aside when the other's were kept. */
  const aside = ref<Edit[]>([])
  let draining: Promise<void> | null = null
  let flying: Edit[] = []
  /** What was sent and never answered: it may be in, or not. */
  let unanswered: Edit[] = []
  /** So many of those that wait go one by one: together they were not taken, and none was named. */
  let singly = 0
  let timer: ReturnType<typeof setTimeout> | undefined

  const waits = (place: string) => queue.value.some((e) => e.at === place)

  /** What stands at a place, as the server has it. */
  function at(place: string): unknown {
    return valueAt(view.value?.document, place)
  }

  function keep() {
    unkept.value = !keepUnsaved(id.value, {
      revision: view.value?.revision ?? 0,
      edits: queue.value,
      drafts: drafts.value,
      meant: meant.value,
    })
  }

  /** Another job is opened: what belonged to the one before lies in the browser's storage. */
  function reset() {
    queue.value = []
    drafts.value = {}
    errors.value = {}
    aside.value = []
    theirs.value = null
    message.value = ''
    unanswered = []
    singly = 0
  }

  /** What a closed or crashed window left unsaved. */
  function restore() {
    const kept = readUnsaved(id.value)
    if (!kept || queue.value.length > 0) return
    drafts.value = kept.drafts
    meant.value = kept.meant
    // What was refused is offered again, so that the field says again what is wrong.
    const refusedBefore = Object.keys(kept.drafts)
      .filter((place) => !kept.edits.some((e) => e.at === place))
      .map((place) => ({ op: 'set' as const, at: place, value: kept.meant[place] }))
    if (kept.edits.length === 0) return void edit(refusedBefore)
    // A window closed before the answer came: what arrived after all is no conflict.
    queue.value = [...lastOnly(kept.edits).filter((e) => !stands(e)), ...refusedBefore]
    if (queue.value.length === 0) return keep()
    if (view.value && kept.revision !== view.value.revision && !queue.value.every(adds)) {
      theirs.value = view.value
      status.value = 'conflict'
    } else void flush()
  }

  /** Whether it goes with whatever stands: what is only put down quarrels with nobody. */
  const adds = (one: Edit) => one.op === 'put'

  /** Whether a document says already what an edit would make it say. */
  function stands(one: Edit, document = view.value?.document): boolean {
    const there = valueAt(document, one.at)
    if (one.op === 'add') return Array.isArray(there) && there.some((row: { id?: string }) => row.id === (one.value as { id?: string }).id)
    if (one.op === 'put')
      return Array.isArray(there) && there.some((row: { id?: string }) => JSON.stringify(row) === JSON.stringify(one.value))
    if (one.op === 'remove' || one.op === 'unset') return there === undefined
    return one.op === 'set' && (there === one.value || (typeof there === 'number' && there === figure(one.value)))
  }

  /** Whether an edit makes an earlier one that still waits needless. */
  function replaces(one: Edit, earlier: Edit): boolean {
    if (one.op !== earlier.op || one.at !== earlier.at) return false
    return one.op === 'set' || (one.op === 'put' && rowId(one) === rowId(earlier))
  }

  /** Without those that a later one of the same field or row makes needless. */
  const lastOnly = (list: Edit[]) => list.filter((e, i) => !list.slice(i + 1).some((later) => replaces(later, e)))

  /** Queues edits and sends them; a later edit of one field takes an earlier one's place. */
  function edit(edits: Edit[]): Promise<void> {
    for (const one of edits) {
      // What is under way can't be called back; what waits can be replaced.
      const same = queue.value.findLastIndex((e) => replaces(one, e) && !flying.includes(e))
      if (same >= 0) queue.value[same] = one
      else queue.value.push(one)
    }
    keep()
    return status.value === 'conflict' ? Promise.resolve() : flush()
  }

  function set(place: string, value: unknown) {
    void edit([{ op: 'set', at: place, value }])
  }

  function type(place: string, text: string, value = text) {
    drafts.value = { ...drafts.value, [place]: text }
    meant.value[place] = value
    delete errors.value[place]
    set(place, value)
  }

  /** Sends what waits. Whoever asks meanwhile waits for the same. */
  function flush(): Promise<void> {
    draining ??= inLane(drain).finally(() => (draining = null))
    return draining
  }

  async function drain() {
    while (queue.value.length > 0 && view.value && status.value !== 'conflict') {
      if (!(await sendBatch())) return
    }
  }

  /** @returns whether what still waits can be sent at once */
  async function sendBatch(): Promise<boolean> {
    status.value = 'saving'
    const job = id.value
    // Of one field or row only the last goes: an earlier one, refused, would take it along.
    queue.value = lastOnly(queue.value)
    const batch = singly > 0 ? queue.value.slice(0, 1) : [...queue.value]
    flying = batch
    try {
      const { data, error, status: code } = await send(job, view.value!.revision, batch)
      if (id.value !== job) return true
      if (data) {
        done(batch)
        singly = Math.max(0, singly - 1)
        unanswered = []
        apply(data)
        status.value = 'saved'
        message.value = ''
      } else if (code === 409 && error?.current) stale(error.current)
      else if (code === 404) {
        failed.value = REMOVED
        status.value = 'unsaved'
        return false
      } else if (ABSENT.includes(code)) {
        retry(error?.message ?? `The server answered ${code}.`)
        return false
      } else refused(batch, error?.fields ?? [], error?.message ?? `The server answered ${code}.`, code)
      return true
    } catch {
      if (id.value !== job) return true
      unanswered = batch
      retry(AWAY)
      return false
    } finally {
      flying = []
      keep()
    }
  }

  /** Takes what was sent out of the queue; what came meanwhile stays. */
  function done(batch: Edit[]) {
    queue.value = queue.value.filter((e) => !batch.includes(e))
    const left = { ...drafts.value }
    for (const e of batch) {
      if (!waits(e.at) && e.op === 'set' && meant.value[e.at] === e.value) delete left[e.at]
      delete errors.value[e.at]
    }
    drafts.value = left
  }

  /** Where an edit's value comes to stand: a new row under its id. */
  const placeOf = (e: Edit) => (e.op === 'add' || e.op === 'put' ? `${e.at}/${rowId(e)}` : e.at)

  /** A no, or a mistake of the program's: what can't be taken stays in its field, or lies aside; the rest goes on. */
  function refused(batch: Edit[], fields: FieldError[], text: string, code: number) {
    const bad = new Set(batch.filter((e) => fields.some((f) => f.at === e.at || f.at === placeOf(e) || f.at.startsWith(`${placeOf(e)}/`))))
    if (bad.size === 0 && batch.length > 1) return void (singly = batch.length)

    const dropped = bad.size > 0 ? batch.filter((e) => bad.has(e)) : batch
    singly = Math.max(0, singly - 1)
    const named =
      fields.length > 0
        ? fields
        : dropped.map((e) => ({ at: e.at, field: e.at.split('/').pop()!, message: text, accepts: 'what was there before' }))
    for (const f of named) errors.value = { ...errors.value, [f.at]: f }
    queue.value = queue.value.filter((e) => !dropped.includes(e))
    // What no field shows is not lost without a word.
    aside.value = [...aside.value, ...dropped.filter((e) => bad.size === 0 && drafts.value[e.at] === undefined)]
    message.value = fields.length > 0 ? `${fields[0].field}: ${fields[0].message}` : text
    status.value = code >= FAULT ? 'fault' : 'unsaved'
  }

  function stale(current: JobView) {
    theirs.value = current
    // The answer to our own save was lost: it is our own change that we meet, with others' since. What never arrived is a quarrel.
    const ours = unanswered
    unanswered = []
    if (ours.length > 0 && ours.every((e) => stands(e, current.document))) return mineOnTop()
    if (queue.value.every(adds)) return mineOnTop()
    status.value = 'conflict'
  }

  function mineOnTop() {
    if (!theirs.value) return
    show(theirs.value)
    theirs.value = null
    status.value = 'saved'
    flying = []
    // What had arrived after all is not sent again: a row already there would be refused, and others with it. An earlier state of
    // what arrived goes with it: sent again, it would put the row back.
    queue.value = lastOnly(queue.value)
    done(queue.value.filter((e) => stands(e)))
    void flush()
  }

  function keepTheirs() {
    if (!theirs.value) return
    aside.value = [...aside.value, ...queue.value]
    // What was refused before is no part of the quarrel: it stays in its field.
    drafts.value = Object.fromEntries(Object.entries(drafts.value).filter(([place]) => !waits(place)))
    queue.value = []
    show(theirs.value)
    theirs.value = null
    status.value = 'saved'
    keep()
  }

  function retry(text: string) {
    status.value = 'offline'
    message.value = text
    clearTimeout(timer)
    timer = setTimeout(() => {
      if (status.value === 'offline') void flush()
    }, RETRY_MS)
  }

  /** Refused texts go with an act; what was typed while it was under way stays. */
  function forget(before: Record<string, string>) {
    drafts.value = Object.fromEntries(Object.entries(drafts.value).filter(([place, text]) => before[place] !== text || waits(place)))
    errors.value = Object.fromEntries(Object.entries(errors.value).filter(([place]) => place in drafts.value))
    keep()
  }

  return {
    status,
    message,
    drafts,
    errors,
    queue,
    theirs,
    aside,
    unkept,
    at,
    reset,
    restore,
    edit,
    set,
    type,
    flush,
    drain,
    keep,
    forget,
    mineOnTop,
    keepTheirs,
  }
}
