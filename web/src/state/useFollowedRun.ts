import { tryOnScopeDispose, useEventListener } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'

type Act = 'stop' | 'again' | 'go_on' | 'take' | 'back'
interface Begun {
  data?: unknown
  error?: { message: string; kept?: string | null }
}

/**
 * A run at the instruments, followed through its event stream. The browser takes the
 * stream up again by itself where it broke off.
 */
export function useFollowedRun<R extends Schemas['Run'] | Schemas['WallRun']>(heard: Record<string, (data: never) => void>) {
  const run = shallowRef<R | null>(null)
  const failed = ref('')
  const adrift = ref(false)
  let source: EventSource | undefined

  function close() {
    source?.close()
    source = undefined
  }

  function follow(id: string) {
    close()
    source = new EventSource(`/api/runs/${id}/events`)
    source.addEventListener('open', () => (adrift.value = false))
    source.addEventListener('error', () => (adrift.value = true))
    source.addEventListener('state', (e) => (run.value = JSON.parse(e.data) as R))
    for (const [kind, hear] of Object.entries(heard)) source.addEventListener(kind, (e) => hear(JSON.parse(e.data) as never))
    source.addEventListener('end', close)
  }

  async function begin(call: () => Promise<Begun>) {
    failed.value = ''
    try {
      const { data, error } = await call()
      if (!data) return void (failed.value = [error?.message, error?.kept].filter(Boolean).join(' '))
      run.value = data as R
      follow(run.value.id)
    } catch {
      failed.value = AWAY
    }
  }

  async function act(what: Act) {
    if (!run.value) return
    try {
      const { data } = await api.POST('/api/runs/{id}/act', { params: { path: { id: run.value.id } }, body: { act: what } })
      if (data) run.value = data as R
      if (what !== 'stop' && !source) follow(run.value.id)
    } catch {
      failed.value = AWAY
    }
  }

  /** Also when the window closes: the instrument is free for the next reading. */
  function leave() {
    if (run.value && run.value.state !== 'stopped') {
      const going = api.POST('/api/runs/{id}/act', { params: { path: { id: run.value.id } }, body: { act: 'stop' }, keepalive: true })
      going.catch(() => undefined) // The server lets go of a reading nobody follows.
    }
    close()
    run.value = null
  }
  tryOnScopeDispose(leave)
  useEventListener(window, 'pagehide', leave)

  return { run, failed, adrift, begin, act, leave }
}
