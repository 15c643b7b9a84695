import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, type Edit, type FieldError, type JobView } from '../api/client'
import { valueAt } from './valueAt'

export type SaveState = 'saved' | 'saving' | 'unsaved' | 'offline' | 'conflict'
interface Kept {
  revision: number
  edits: Edit[]
  drafts: Record<string, string>
  meant: Record<string, string>
}

interface Sent {
  data?: JobView
  error?: { message: string; current?: JobView }
  response: Response
}

const RETRY_MS = 2500

/**
 * The job on screen: the document as the server has it, what is typed but not yet
 * saved, and the one queue through which every edit goes.
 */
export const useJob = defineStore('job', () => {
  const id = ref('')
  const view = shallowRef<JobView | null>(null)
  const status = ref<SaveState>('saved')
  const message = ref('')
  const failed = ref('')
  const scenario = ref<string | undefined>()
  const circuit = ref<string | undefined>()
  /** Engine speed on the slider; null is the scenario's own. */
  const rpm = ref<number | null>(null)
  const side = ref<'before' | 'after'>('after')
  /** Texts typed into fields that are not saved yet, or were refused. */
  const drafts = ref<Record<string, string>>({})
  /** What each draft was sent as: the text, with the shown unit where it had none. */
  const meant = ref<Record<string, string>>({})
  const errors = ref<Record<string, FieldError>>({})
  const queue = ref<Edit[]>([])
  const theirs = shallowRef<JobView | null>(null)
  /** Edits put aside when the other's were kept. */
  const aside = ref<Edit[]>([])
  let lane: Promise<unknown> = Promise.resolve()
  let draining: Promise<void> | null = null
  let flying: Edit[] = []
  let looks = 0
  let lostAnswer = false
  let timer: ReturnType<typeof setTimeout> | undefined

  const document = computed(() => view.value?.document)
  const budget = computed(() => view.value?.budget)
  const problems = computed(() => Object.fromEntries((view.value?.problems ?? []).map((p) => [p.at, p])))

  function key() {
    return `miser.unsaved.${id.value}`
  }

  function keep() {
    if (queue.value.length === 0 && Object.keys(drafts.value).length === 0) return localStorage.removeItem(key())
    const kept: Kept = { revision: view.value?.revision ?? 0, edits: queue.value, drafts: drafts.value, meant: meant.value }
    localStorage.setItem(key(), JSON.stringify(kept))
  }

  async function open(job: string) {
    if (id.value !== job) {
      id.value = job
      view.value = null
      scenario.value = undefined
      circuit.value = undefined
      rpm.value = null
      queue.value = []
      drafts.value = {}
      errors.value = {}
      aside.value = []
      theirs.value = null
    }
    failed.value = ''
    try {
      const { data, error, response } = await api.GET('/api/jobs/{id}', { params: { path: { id: job }, query: looking() } })
      if (id.value !== job) return
      if (data) {
        show(data)
        restore()
      } else failed.value = response.status === 404 ? 'This job is not here (any more).' : (error?.message ?? 'The job could not be read.')
    } catch {
      failed.value = 'Miser does not answer. Is it still running?'
    }
  }

  /** What a closed or crashed window left unsaved. */
  function restore() {
    const text = localStorage.getItem(key())
    if (!text || queue.value.length > 0) return
    try {
      const kept = JSON.parse(text) as Kept
      drafts.value = kept.drafts
      meant.value = kept.meant
      // What was refused is offered again, so that the field says again what is wrong.
      const refusedBefore = Object.keys(kept.drafts).map((at) => ({ op: 'set' as const, at, value: kept.meant[at] }))
      if (kept.edits.length === 0) return void edit(refusedBefore)
      // A window closed before the answer came: what arrived after all is no conflict.
      queue.value = kept.edits.filter((e) => !stands(e))
      if (queue.value.length === 0) return keep()
      if (view.value && kept.revision !== view.value.revision) {
        theirs.value = view.value
        status.value = 'conflict'
      } else void flush()
    } catch {
      localStorage.removeItem(key())
    }
  }

  /** Whether the document says already what an edit would make it say. */
  function stands(one: Edit): boolean {
    const there = at(one.at)
    if (one.op === 'add') return Array.isArray(there) && there.some((row: { id?: string }) => row.id === (one.value as { id?: string }).id)
    if (one.op === 'remove' || one.op === 'unset') return there === undefined
    return one.op === 'set' && (there === one.value || (typeof there === 'number' && there === Number(one.value)))
  }

  function looking() {
    return { scenario: scenario.value, circuit: circuit.value }
  }

  function show(data: JobView) {
    view.value = data
    // What somebody has just asked to look at is not turned back by an answer to an earlier question.
    if (looks > 0) return
    scenario.value = data.budget.scenario ?? undefined
    circuit.value = data.budget.circuit
  }

  /** Queues edits and sends them; a later edit of one field takes an earlier one's place. */
  function edit(edits: Edit[]): Promise<void> {
    for (const one of edits) {
      // What is under way can't be called back; what waits can be replaced.
      const same = one.op === 'set' ? queue.value.findIndex((e) => e.op === 'set' && e.at === one.at && !flying.includes(e)) : -1
      if (same >= 0) queue.value[same] = one
      else queue.value.push(one)
    }
    keep()
    return status.value === 'conflict' ? Promise.resolve() : flush()
  }

  function set(at: string, value: unknown) {
    void edit([{ op: 'set', at, value }])
  }

  function type(at: string, text: string, value = text) {
    drafts.value = { ...drafts.value, [at]: text }
    meant.value[at] = value
    delete errors.value[at]
    set(at, value)
  }

  /** One thing at a time speaks to the server: each stands on the revision the one before it made. */
  function inLane<T>(work: () => Promise<T>): Promise<T> {
    const mine = lane.then(work)
    lane = mine.catch(() => undefined)
    return mine
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
    const batch = [...queue.value]
    flying = batch
    try {
      const { data, error, response } = await api.PATCH('/api/jobs/{id}', {
        params: { path: { id: job } },
        body: { revision: view.value!.revision, edits: batch, ...looking() },
      })
      if (id.value !== job) return true
      if (data) {
        done(batch)
        lostAnswer = false
        show(data)
        status.value = 'saved'
        message.value = ''
      } else if (response.status === 409 && error && 'current' in error) stale(error.current)
      else if (response.status === 422) refused(batch, error?.fields ?? [], error?.message ?? '')
      else if (response.status === 404) {
        failed.value = 'This job was removed meanwhile.'
        status.value = 'unsaved'
        return false
      } else {
        retry(error?.message ?? `The server answered ${response.status}.`)
        return false
      }
      return true
    } catch {
      if (id.value !== job) return true
      lostAnswer = true
      retry('Miser does not answer.')
      return false
    } finally {
      flying = []
      keep()
    }
  }

  const waits = (place: string) => queue.value.some((e) => e.at === place)

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

  function refused(batch: Edit[], fields: FieldError[], text: string) {
    // A retried row that had arrived after all is no mistake.
    const bad = new Set(batch.filter((e) => fields.some((f) => f.at === e.at || f.at.startsWith(`${e.at}/`))))
    const dropped = bad.size > 0 ? batch.filter((e) => bad.has(e)) : batch
    for (const f of fields) errors.value = { ...errors.value, [f.at]: f }
    queue.value = queue.value.filter((e) => !dropped.includes(e))
    message.value = fields.length > 0 ? `${fields[0].field}: ${fields[0].message}` : text
    status.value = 'unsaved'
  }

  function stale(current: JobView) {
    theirs.value = current
    // The answer to our own save was lost: it is our own change that we meet.
    if (lostAnswer && view.value && current.revision === view.value.revision + 1) {
      lostAnswer = false
      return mineOnTop()
    }
    status.value = 'conflict'
  }

  function mineOnTop() {
    if (!theirs.value) return
    show(theirs.value)
    theirs.value = null
    status.value = 'saved'
    flying = []
    void flush()
  }

  function keepTheirs() {
    if (!theirs.value) return
    aside.value = [...aside.value, ...queue.value]
    queue.value = []
    drafts.value = {}
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

  /**
   * A larger act than an edit: what is typed goes first, then the call, with the revision it stands on.
   * @returns whether it was done; where not, `message` says why
   */
  async function send(call: (revision: number) => Promise<Sent>): Promise<boolean> {
    const done = await inLane(() => sendAlone(call))
    // What was typed meanwhile waited.
    if (queue.value.length > 0 && status.value === 'saved') void flush()
    return done
  }

  async function sendAlone(call: (revision: number) => Promise<Sent>): Promise<boolean> {
    await drain()
    if (!view.value || status.value === 'conflict') return false
    try {
      const { data, error, response } = await call(view.value.revision)
      if (data) {
        show(data)
        status.value = 'saved'
        message.value = ''
      } else if (response.status === 409 && error && 'current' in error && error.current) {
        show(error.current)
        message.value = 'Somebody else changed this job meanwhile; here it is as it stands now. Try again.'
      } else message.value = error?.message ?? 'That did not work.'
      keep()
      return data !== undefined
    } catch {
      message.value = 'Miser does not answer; nothing was changed.'
      return false
    }
  }

  async function act(what: 'undo' | 'redo' | 'system' | 'engine' | 'hand_over' | 'cure' | 'headlight', value?: string) {
    const body = (revision: number) => ({ act: what, revision, value, ...looking() })
    const before = { ...drafts.value }
    const done = await send((revision) => api.POST('/api/jobs/{id}/act', { params: { path: { id: id.value } }, body: body(revision) }))
    if (!done) return
    // Refused texts go with the act; what was typed while it was under way stays.
    drafts.value = Object.fromEntries(Object.entries(drafts.value).filter(([at, text]) => before[at] !== text || waits(at)))
    errors.value = Object.fromEntries(Object.entries(errors.value).filter(([at]) => at in drafts.value))
    keep()
  }

  /** Looks at another scenario or circuit; nothing is changed. */
  function look(next: { scenario?: string; circuit?: string }) {
    rpm.value = null
    if (next.scenario) scenario.value = next.scenario
    if (next.circuit) circuit.value = next.circuit
    looks += 1
    return inLane(async () => {
      const job = id.value
      try {
        const { data } = await api.GET('/api/jobs/{id}', { params: { path: { id: job }, query: looking() } })
        looks -= 1
        if (data && id.value === job) show(data)
      } catch {
        looks -= 1
        message.value = 'Miser does not answer.'
      }
    })
  }

  /** What stands at a place, as the server has it. */
  function at(place: string): unknown {
    return valueAt(document.value, place)
  }

  return {
    id,
    view,
    document,
    budget,
    status,
    message,
    failed,
    scenario,
    circuit,
    rpm,
    side,
    drafts,
    errors,
    problems,
    queue,
    theirs,
    aside,
    open,
    edit,
    set,
    type,
    act,
    send,
    look,
    at,
    show,
    flush,
    mineOnTop,
    keepTheirs,
  }
})
