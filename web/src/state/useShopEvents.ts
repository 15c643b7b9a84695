import { tryOnScopeDispose } from '@vueuse/core'
import type { Schemas } from '../api/client'

/** A job was changed, or somebody moved; null where it is off the board; neither where anything may have changed. */
export interface ShopEvent {
  id?: string
  revision?: number | null
  /** Who is where, where that is what changed. */
  windows?: Schemas['Windows']['windows']
}
type Heard = (event: ShopEvent) => void

const AGAIN_MS = 5000
const ears = new Set<Heard>()
let begun = false

function tell(event: ShopEvent) {
  for (const heard of ears) heard(event)
}

/** A stream of what others change. Where it broke off something may have been missed. */
function follow(told: Heard, gap: boolean) {
  let missed = gap
  const source = new EventSource('/api/events')
  source.addEventListener('open', () => {
    if (missed) told({})
    missed = true
  })
  source.addEventListener('job', (e) => told(JSON.parse(e.data) as ShopEvent))
  source.addEventListener('here', (e) => told(JSON.parse(e.data) as ShopEvent))
  source.addEventListener('gap', () => told({}))
  // A line that broke off the browser takes up again by itself; where it was told no, it would not.
  source.addEventListener('error', () => {
    if (source.readyState !== EventSource.CLOSED) return
    const again = () => {
      clearTimeout(timer)
      window.removeEventListener('miser:signed-in', again)
      follow(told, true)
    }
    const timer = setTimeout(again, AGAIN_MS)
    window.addEventListener('miser:signed-in', again)
  })
}

/** A browser keeps few connections to one server: one of its windows holds the stream, and tells the others. */
function begin() {
  begun = true
  const others = new BroadcastChannel('miser-shop')
  others.onmessage = (e: MessageEvent<ShopEvent>) => tell(e.data)
  const told = (event: ShopEvent) => {
    tell(event)
    others.postMessage(event)
  }
  // Only where the page came safely is there a lock to be had.
  if (!('locks' in navigator)) return follow(told, false)

  let waited = false
  const queued = setTimeout(() => (waited = true), 1000)
  void navigator.locks.request('miser-shop', () => {
    clearTimeout(queued)
    follow(told, waited)
    return new Promise(() => undefined)
  })
}

/** Hears of every change in the shop as it happens, this window's own among them. */
export function useShopEvents(heard: Heard) {
  if (!begun) begin()
  ears.add(heard)
  tryOnScopeDispose(() => ears.delete(heard))
}
