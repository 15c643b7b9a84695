import { ref, shallowRef } from 'vue'
import type { DocumentChange, Edit, JobChange, JobView } from '../src/api/client'
import { applyChanges } from '../src/state/applyChanges'
import { editQueue, type Sent } from '../src/state/editQueue'
import { makeLane } from '../src/state/lane'

/**
 * The queue of edits against a server that delays, refuses, is changed by others, goes
 * away before or after it has taken an edit; and a window that crashes. Time is counted,
 * not waited for. Prints what broke of what must hold, by seed.
 */
interface Page {
  fields: Record<string, unknown>
  rows: { id: string; n: number }[]
  log: { id: string; n: number }[]
}
interface Timer {
  at: number
  run: () => void
  id: number
}

function random(seed: number) {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

const settle = () => new Promise<void>((done) => setImmediate(done))

class World {
  now = 0
  timers: Timer[] = []
  broken: string[] = []
  revision = 1
  page: Page = { fields: {}, rows: [], log: [] }
  /** The newest of each field that a window typed and the server took. */
  newest: Record<string, number> = {}
  flying = 0
  healthy = false
  sent = 0
  private ids = 0

  constructor(readonly chance: () => number) {}

  later(run: () => void, ms = 0) {
    const id = ++this.ids
    this.timers.push({ at: this.now + ms, run, id })
    return id
  }
  wait(ms: number) {
    return new Promise<void>((done) => this.later(done, ms))
  }
  async step(): Promise<boolean> {
    await settle()
    const next = this.timers.sort((a, b) => a.at - b.at || a.id - b.id).shift()
    if (!next) return false
    this.now = Math.max(this.now, next.at)
    next.run()
    await settle()
    return true
  }
  view(): JobView {
    return { document: structuredClone(this.page), revision: this.revision } as unknown as JobView
  }
  must(holds: boolean, words: string) {
    if (!holds) this.broken.push(`at ${this.now}: ${words}`)
  }

  /** Takes edits or refuses all of them, as the server does. */
  take(revision: number, edits: Edit[]): Sent {
    if (revision !== this.revision) return { status: 409, error: { message: 'stale', current: this.view() } }
    const bad = edits.filter((e) =>
      e.op === 'add' ? this.page.rows.some((r) => r.id === (e.value as { id: string }).id) : e.value === 'bad',
    )
    if (bad.length > 0)
      return {
        status: 422,
        error: { message: 'no', fields: bad.map((e) => ({ at: e.at, field: e.at, message: 'is not known', accepts: 'a number' })) },
      }
    // What the server can't take at all takes nothing else with it, whatever came with it.
    if (edits.some((e) => e.value === 'breaks')) return { status: 500, error: { message: 'a mistake' } }
    if (edits.some((e) => e.value === 'garbled')) return { status: 400, error: { message: 'not to be read' } }
    const changes: DocumentChange[] = []
    for (const e of edits) {
      if (e.op === 'add') {
        const row = e.value as { id: string; n: number }
        this.page.rows.push(row)
        changes.push({ at: `/rows/${row.id}`, value: row } as unknown as DocumentChange)
      } else if (e.op === 'put') {
        const row = e.value as { id: string; n: number }
        this.page.log = [...this.page.log.filter((r) => r.id !== row.id), row]
        changes.push({ at: `/log/${row.id}`, value: row } as unknown as DocumentChange)
      } else {
        const name = e.at.split('/')[2]
        const number = Number(e.value)
        this.page.fields[name] = number
        changes.push({ at: e.at, value: number } as unknown as DocumentChange)
      }
    }
    for (const [name, number] of Object.entries(this.page.fields).filter(([n]) => n !== 'theirs')) {
      this.must(Number(number) >= (this.newest[name] ?? 0), `${name} went back from ${this.newest[name]} to ${String(number)}`)
      this.newest[name] = Number(number)
    }
    this.revision += 1
    return { status: 200, data: { changes, revision: this.revision } as unknown as JobChange }
  }

  async answer(revision: number, edits: Edit[]): Promise<Sent> {
    this.sent += 1
    this.flying += 1
    this.must(this.flying === 1, 'two requests at once')
    this.must(edits.length > 0, 'nothing was sent')
    const luck = this.healthy ? 1 : this.chance()
    try {
      await this.wait(this.chance() * 400)
      if (luck < 0.12) throw new TypeError('away')
      if (luck < 0.2) return { status: 503, error: { message: 'not just now' } }
      const said = this.take(revision, JSON.parse(JSON.stringify(edits)) as Edit[])
      await this.wait(this.chance() * 400)
      if (luck < 0.3) throw new TypeError('the answer is lost')
      return said
    } finally {
      this.flying -= 1
    }
  }

  /** Somebody else, elsewhere. */
  meddle() {
    this.page.fields.theirs = this.now
    this.revision += 1
  }
}

/** A window on the job; a crashed one never speaks again. */
function open(world: World) {
  const view = shallowRef<JobView | null>(world.view())
  const inLane = makeLane()
  let alive = true
  const show = (data: JobView) => (view.value = data)
  const queue = editQueue({
    id: ref('job'),
    view,
    failed: ref(''),
    inLane,
    show,
    apply: ({ changes, ...stand }) => show({ ...stand, document: applyChanges(view.value!.document, changes) } as JobView),
    send: (_, revision, edits) => (alive ? world.answer(revision, edits) : new Promise(() => undefined)),
  })
  queue.restore()
  return { queue, view, inLane, crash: () => (alive = false) }
}

const NAMES = ['a', 'b', 'c']
const BAD = ['bad', 'breaks', 'garbled']

async function one(seed: number) {
  const chance = random(seed)
  const world = new World(chance)
  const stored = new Map<string, string>()
  // A browser without room keeps nothing for a crash, and saves as well as any other.
  const full = seed % 5 === 0
  const globals = globalThis as unknown as Record<string, unknown>
  globals.localStorage = {
    getItem: (k: string) => stored.get(k) ?? null,
    setItem: (k: string, v: string) => {
      if (full) throw new DOMException('full', 'QuotaExceededError')
      stored.set(k, v)
    },
    removeItem: (k: string) => void stored.delete(k),
  }
  globals.setTimeout = (run: () => void, ms: number) => world.later(run, ms)
  globals.clearTimeout = (id: number) => (world.timers = world.timers.filter((t) => t.id !== id))

  let desk = open(world)
  const typed: Record<string, string> = {}
  const rows: string[] = []
  const put = new Set<string>()
  /** What was put down last under an id. */
  const logged = new Map<string, number>()
  let count = 0
  const decide = () => {
    if (desk.queue.status.value !== 'conflict') return
    world.must(
      desk.queue.queue.value.some((e) => e.op !== 'put'),
      'what is only put down was quarrelled about',
    )
    if (chance() < 0.5) return desk.queue.mineOnTop()
    desk.queue.keepTheirs()
    for (const e of desk.queue.aside.value) put.add(e.op === 'set' ? e.at : (e.value as { id: string }).id)
  }
  const deed = () => {
    const luck = chance()
    if (luck < 0.6) {
      const at = `/fields/${NAMES[Math.floor(chance() * NAMES.length)]}`
      const text = chance() < 0.15 ? BAD[Math.floor(chance() * BAD.length)] : String(++count)
      typed[at] = text
      put.delete(at)
      desk.queue.type(at, text)
    } else if (luck < 0.7) {
      const id = `r${++count}`
      rows.push(id)
      void desk.queue.edit([{ op: 'add', at: '/rows', value: { id, n: count } }])
    } else if (luck < 0.76) {
      const id = chance() < 0.3 && logged.size > 0 ? [...logged.keys()][Math.floor(chance() * logged.size)] : `p${count + 1}`
      logged.set(id, ++count)
      put.delete(id)
      void desk.queue.edit([{ op: 'put', at: '/log', value: { id, n: count } }])
    } else if (luck < 0.82) world.meddle()
    else if (luck < 0.86) void desk.inLane(() => world.wait(chance() * 300))
    else if (luck < 0.9 && world.flying === 0 && !full) {
      desk.crash()
      desk = open(world)
    } else decide()
  }
  for (let k = 0; k < 60; k += 1) {
    deed()
    const steps = Math.floor(chance() * 4)
    for (let s = 0; s < steps; s += 1) await world.step()
  }
  // The line holds again, and whoever sits there decides.
  world.healthy = true
  for (let k = 0; k < 400; k += 1) {
    decide()
    if (desk.queue.queue.value.length > 0 && ['unsaved', 'fault'].includes(desk.queue.status.value)) void desk.queue.flush()
    if (!(await world.step()) && desk.queue.queue.value.length === 0 && desk.queue.status.value !== 'conflict') break
  }

  const { queue, view } = desk
  world.must(queue.queue.value.length === 0, `left in the queue: ${JSON.stringify(queue.queue.value)}, ${queue.status.value}`)
  for (const [at, text] of Object.entries(typed)) {
    const name = at.split('/')[2]
    if (put.has(at)) continue
    if (BAD.includes(text))
      world.must(queue.drafts.value[at] === text && queue.errors.value[at] !== undefined, `${at}: what was refused is not in the field`)
    else
      world.must(
        world.page.fields[name] === Number(text),
        `${at} was last typed ${text}, the server has ${String(world.page.fields[name])}`,
      )
  }
  for (const [id, n] of logged)
    world.must(put.has(id) || world.page.log.some((r) => r.id === id && r.n === n), `${id} was put down as ${n}, the server has another`)
  for (const id of rows) world.must(put.has(id) || world.page.rows.filter((r) => r.id === id).length === 1, `row ${id} is not there once`)
  if (view.value?.revision === world.revision)
    world.must(JSON.stringify(sorted(view.value.document)) === JSON.stringify(sorted(world.page)), 'the window shows another document')
  return { broken: world.broken, sent: world.sent }
}

function sorted(page: unknown): unknown {
  const { fields, rows, log } = page as Page
  return [Object.entries(fields).sort(), rows, log.map((r) => `${r.id} ${r.n}`).sort()]
}

const [first, runs] = process.argv.slice(2).map(Number)
const found: { seed: number; broken: string[] }[] = []
let sent = 0
for (let seed = first; seed < first + runs; seed += 1) {
  const result = await one(seed)
  sent += result.sent
  if (result.broken.length > 0) found.push({ seed, broken: result.broken.slice(0, 4) })
}
console.log(JSON.stringify({ runs, sent, found }))
