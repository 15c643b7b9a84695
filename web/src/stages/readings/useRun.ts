import { tryOnScopeDispose, useEventListener } from '@vueuse/core'
import { ref, shallowRef } from 'vue'
import { api, type Schemas } from '../../api/client'

export type Run = Schemas['Run']
interface Point {
  t_s: number
  value: number
}
/** More than a chart has pixels for would only cost time. */
const MOST_POINTS = 400

/**
 * A reading under way, followed through its event stream. The browser takes the
 * stream up again by itself where it broke off.
 */
export function useRun() {
  const run = shallowRef<Run | null>(null)
  const amps = shallowRef<Point[]>([])
  const lux = ref<number | null>(null)
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
    source.addEventListener('state', (e) => (run.value = JSON.parse(e.data) as Run))
    source.addEventListener('amps', (e) => {
      const point = JSON.parse(e.data) as Point
      const kept = amps.value.length >= MOST_POINTS ? amps.value.filter((_, i) => i % 2 === 0) : amps.value
      amps.value = [...kept, point]
    })
    source.addEventListener('lux', (e) => (lux.value = (JSON.parse(e.data) as Point).value))
    source.addEventListener('end', close)
  }

  async function start(body: Schemas['RunIn']) {
    failed.value = ''
    amps.value = []
    lux.value = null
    try {
      const { data, error } = await api.POST('/api/runs', { body })
      if (!data) return void (failed.value = [error?.message, error?.kept].filter(Boolean).join(' '))
      run.value = data
      follow(data.id)
    } catch {
      failed.value = 'Miser does not answer.'
    }
  }

  async function act(what: 'stop' | 'again' | 'go_on') {
    if (!run.value) return
    if (what === 'again') amps.value = []
    try {
      const { data } = await api.POST('/api/runs/{id}/act', { params: { path: { id: run.value.id } }, body: { act: what } })
      if (data) run.value = data
      if (what !== 'stop' && !source) follow(run.value.id)
    } catch {
      failed.value = 'Miser does not answer.'
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

  return { run, amps, lux, failed, adrift, start, act, leave }
}
