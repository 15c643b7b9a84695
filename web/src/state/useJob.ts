import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { api, AWAY, lookedBack, type ActName, type Edit, type FieldError, type JobChange, type JobView } from '../api/client'
import { applyChanges } from './applyChanges'
import { editQueue, REMOVED } from './editQueue'
import { makeLane } from './lane'
import { useMe } from './useMe'
import { useShopEvents } from './useShopEvents'

interface Answered {
  data?: JobChange
  error?: { message: string; fields?: FieldError[]; current?: JobView }
  response: Response
}

/** How long what was taken out is offered back. */
const REMIND_MS = 12_000

/** What a row is called: by itself, or by its part. */
function nameOf(row: unknown): string {
  const said = row as { name?: string; part?: { name?: string } } | undefined
  return said?.name ?? said?.part?.name ?? ''
}

/** A refused act in words: what it waits for stands with the field. */
function refusal(error: Answered['error']): string | undefined {
  const field = error?.fields?.[0]
  return field ? `${error?.message} ${field.field}: ${field.message}` : error?.message
}

/**
 * The job on screen: the document as the server has it, and what is looked at. Edits, acts
 * and looks go to the server one after the other, each on the revision the last one made.
 */
export const useJob = defineStore('job', () => {
  const id = ref('')
  const view = shallowRef<JobView | null>(null)
  const failed = ref('')
  const scenario = ref<string | undefined>()
  const circuit = ref<string | undefined>()
  /** Engine speed on the slider; null is the scenario's own. */
  const rpm = ref<number | null>(null)
  const side = ref<'before' | 'after'>('after')
  let looks = 0

  /** Whether it was taken off the board while it is looked at. */
  const gone = computed(() => view.value !== null && failed.value === REMOVED)
  const document = computed(() => view.value?.document)
  const ticket = computed(() => view.value?.ticket)
  const rail = computed(() => view.value?.rail)
  const problems = computed(() => Object.fromEntries((view.value?.problems ?? []).map((p) => [p.at, p])))

  /** What was just taken out of a list, by name: it can be brought back for a while. */
  const removed = ref('')
  let forgets: ReturnType<typeof setTimeout> | undefined
  /** Whether somebody else has just changed what is shown. */
  const elsewhere = ref(false)
  /** The state looked at in place of how it stands, and what it is called. */
  const past = shallowRef<{ revision: number; words: string } | null>(null)
  const me = useMe()
  const readonly = computed(() => past.value !== null || !me.mayChange)
  let settles: ReturnType<typeof setTimeout> | undefined
  const inLane = makeLane()
  const edits = editQueue({
    id,
    view,
    failed,
    inLane,
    show,
    apply,
    async send(job, revision, batch) {
      const body = { revision, edits: batch, ...looking() }
      const { data, error, response } = await api.PATCH('/api/jobs/{id}', { params: { path: { id: job } }, body })
      return { data, error, status: response.status }
    },
  })
  const { status, message, queue, drafts } = edits

  async function open(job: string) {
    if (id.value !== job) {
      id.value = job
      view.value = null
      scenario.value = undefined
      circuit.value = undefined
      rpm.value = null
      edits.reset()
      removed.value = ''
      elsewhere.value = false
      past.value = null
      Object.assign(lookedBack, { job, revision: 0 })
    }
    failed.value = ''
    try {
      const { data, error, response } = await api.GET('/api/jobs/{id}', { params: { path: { id: job }, query: looking() } })
      if (id.value !== job) return
      if (data) {
        show(data)
        edits.restore()
      } else failed.value = response.status === 404 ? 'This job is not here (any more).' : (error?.message ?? 'The job could not be read.')
    } catch {
      failed.value = `${AWAY} Is it still running?`
    }
  }

  /** Others changed it: it is shown as it stands now, unless something of ours waits to be put on top. */
  async function refresh(revision?: number | null) {
    const job = id.value
    const behind = () => id.value === job && view.value && !past.value && (!revision || view.value.revision < revision)
    if (!behind()) return
    await inLane(async () => {
      if (!behind() || queue.value.length > 0 || status.value === 'conflict') return
      try {
        const { data, response } = await api.GET('/api/jobs/{id}', { params: { path: { id: job }, query: looking() } })
        if (id.value !== job) return
        if (response.status === 404) failed.value = REMOVED
        else if (data) failed.value = ''
        if (!data || data.revision === view.value?.revision) return
        show(data)
        elsewhere.value = true
        clearTimeout(settles)
        settles = setTimeout(() => (elsewhere.value = false), REMIND_MS)
      } catch {
        // The stream comes back with the server, and this with it.
      }
    })
  }
  useShopEvents((event) => {
    if (!event.windows && (event.id === undefined || event.id === id.value)) void refresh(event.revision)
  })

  /**
   * Looks at a state the job was in, or again at how it stands (null). What waits is saved first.
   * @returns whether it is shown
   */
  async function lookBack(to: { revision: number; words: string } | null): Promise<boolean> {
    return inLane(async () => {
      await edits.drain()
      if (queue.value.length > 0) return false
      const before = { ...lookedBack }
      Object.assign(lookedBack, { job: id.value, revision: to?.revision ?? 0 })
      try {
        const { data, error } = await api.GET('/api/jobs/{id}', { params: { path: { id: id.value }, query: looking() } })
        if (data) {
          past.value = to
          show(data)
          message.value = ''
          return true
        }
        message.value = error?.message ?? 'That state could not be read.'
      } catch {
        message.value = AWAY
      }
      Object.assign(lookedBack, before)
      return false
    })
  }

  /** Makes the job again what it is seen to have been. */
  async function takeBack() {
    const to = past.value
    if (to && (await lookBack(null))) await act('return', String(to.revision))
  }

  /** Said where somebody would change what they only look at. */
  function held(): boolean {
    if (readonly.value) message.value = past.value ? 'This is how it was: nothing is changed here.' : 'You look on: nothing is changed.'
    return readonly.value
  }

  /** Puts a job back that somebody took off the board. */
  async function bringBack() {
    try {
      const { data, error } = await api.POST('/api/jobs/{id}/restore', { params: { path: { id: id.value } } })
      if (!data) return void (message.value = error?.message ?? 'That did not work.')
      failed.value = ''
      show(data)
      void edits.flush()
    } catch {
      failed.value = `${AWAY} Is it still running?`
    }
  }

  function looking() {
    return { scenario: scenario.value, circuit: circuit.value }
  }

  function show(data: JobView) {
    view.value = data
    // What somebody has just asked to look at is not turned back by an answer to an earlier question.
    if (looks > 0) return
    scenario.value = data.rail.scenario ?? undefined
    circuit.value = data.rail.circuit
  }

  /** A change that the server made of the document shown: to what is shown. */
  function apply({ changes, ...stand }: JobChange) {
    if (view.value) show({ ...stand, document: applyChanges(view.value.document, changes) })
  }

  /**
   * A larger act than an edit: what is typed goes first, then the call, with the revision it stands on.
   * @returns whether it was done; where not, `message` says why
   */
  async function send(call: (revision: number) => Promise<Answered>): Promise<boolean> {
    if (held()) return false
    const done = await inLane(() => sendAlone(call))
    // What was typed meanwhile waited.
    if (queue.value.length > 0 && status.value === 'saved') void edits.flush()
    return done
  }

  async function sendAlone(call: (revision: number) => Promise<Answered>): Promise<boolean> {
    await edits.drain()
    if (!view.value || status.value === 'conflict') return false
    try {
      const { data, error, response } = await call(view.value.revision)
      if (data) {
        apply(data)
        status.value = 'saved'
        message.value = ''
      } else if (response.status === 409 && error && 'current' in error && error.current) {
        show(error.current)
        message.value = 'Somebody else changed this job meanwhile; here it is as it stands now. Try again.'
      } else message.value = refusal(error) ?? 'That did not work.'
      edits.keep()
      return data !== undefined
    } catch {
      message.value = `${AWAY} Nothing was changed.`
      return false
    }
  }

  /** Edits; what they take out is named, so that it can be brought back. */
  function edit(list: Edit[]) {
    if (held()) return
    const gone = list.filter((e) => e.op === 'remove').map((e) => nameOf(edits.at(e.at)))
    if (gone.length) tell(gone.filter(Boolean).join(', ') || 'A row')
    edits.edit(list)
  }
  function tell(text: string) {
    removed.value = text
    clearTimeout(forgets)
    forgets = setTimeout(() => (removed.value = ''), REMIND_MS)
  }

  async function act(what: ActName, value?: string) {
    removed.value = ''
    const body = (revision: number) => ({ act: what, revision, value, ...looking() })
    const before = { ...drafts.value }
    const done = await send((revision) => api.POST('/api/jobs/{id}/act', { params: { path: { id: id.value } }, body: body(revision) }))
    if (done) edits.forget(before)
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
        if (message.value === AWAY) message.value = ''
      } catch {
        looks -= 1
        message.value = AWAY
      }
    })
  }

  return {
    ...edits,
    set: (place: string, value: unknown) => edit([{ op: 'set', at: place, value }]),
    type: (place: string, text: string, sent?: string) => held() || edits.type(place, text, sent),
    edit,
    past,
    readonly,
    lookBack,
    takeBack,
    removed,
    elsewhere,
    id,
    view,
    document,
    ticket,
    rail,
    failed,
    gone,
    scenario,
    circuit,
    rpm,
    side,
    problems,
    open,
    bringBack,
    act,
    send,
    look,
    show,
    apply,
  }
})
