import { ref } from 'vue'
import type { RouteLocationNormalizedLoaded } from 'vue-router'
import { api, freshId, type Schemas } from '../api/client'
import { useShopEvents } from './useShopEvents'

type Window = Schemas['Windows']['windows'][number]

/** Said again after so long, so that a window that vanished is missed. */
const AGAIN_MS = 30_000
const own = freshId()
const windows = ref<Window[]>([])
let at: { job: string | null; stage: string | null } = { job: null, stage: null }
let begun = false

async function say() {
  try {
    const { data } = await api.POST('/api/here', { body: { window: own, ...at } })
    if (data) windows.value = data.windows
  } catch {
    // It is said again soon.
  }
}

/** The window leaves: said even while it closes. */
function leave() {
  const body = JSON.stringify({ window: own, gone: true })
  void fetch('/api/here', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body, keepalive: true }).catch(() => undefined)
}

/** Says where this window is from now on, each time it moves. */
export function tellWhere(route: RouteLocationNormalizedLoaded) {
  at = { job: (route.params.id as string | undefined) ?? null, stage: route.params.id ? String(route.name) : null }
  void say()
  if (begun) return
  begun = true
  setInterval(() => {
    if (document.visibilityState === 'visible') void say()
  }, AGAIN_MS)
  window.addEventListener('pagehide', leave)
  window.addEventListener('miser:leaving', leave)
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'visible') void say()
  })
}

/** Windows of others: who has which machine open, at which stage. */
export function usePresence() {
  useShopEvents((event) => {
    if (event.windows) windows.value = event.windows
    // Something may have been missed.
    else if (event.id === undefined) void say()
  })
  const others = (job: string) => windows.value.filter((w) => w.window !== own && w.job === job)
  return { others }
}
