import { tryOnScopeDispose } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import { api, AWAY, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import type { Found } from './points'

type Run = Schemas['PlanRun']
interface Progress {
  nodes: number
  done: boolean
  text: string
  plans: number
  points: number
}
interface Cheaper {
  key: string | null
  text: string
  reading: string | null
}
interface Stuck {
  text: string
  ways: { condition: string; text: string }[]
}

/** The search for a plan of the job in hand: it goes on when the screen is left, and is found again when it is opened. */
export function usePlanRun() {
  const job = useJob()
  const run = shallowRef<Run | null>(null)
  const failed = ref('')
  const adrift = ref(false)
  const tried = ref(0)
  const progress = shallowRef<Progress | null>(null)
  const axis = ref('')
  const best = shallowRef<Found | null>(null)
  const proved = ref(false)
  const reading = ref<string | null>(null)
  const front = shallowRef<Found[]>([])
  const stuck = shallowRef<Stuck | null>(null)
  const refused = ref('')
  const leftOut = shallowRef<{ what: string; why: string }[]>([])
  const cheaper = shallowRef<Cheaper | null>(null)
  const ended = ref('')
  let source: EventSource | undefined

  function close() {
    source?.close()
    source = undefined
  }

  function clear() {
    tried.value = 0
    progress.value = null
    best.value = null
    proved.value = false
    reading.value = null
    front.value = []
    stuck.value = null
    refused.value = ''
    leftOut.value = []
    cheaper.value = null
    ended.value = ''
  }

  const HEARD: Record<string, (data: never) => void> = {
    looking: (d: { tried: number }) => (tried.value = d.tried),
    ready: (d: { axis: string }) => {
      axis.value = d.axis
      ended.value = ''
    },
    progress: (d: Progress) => (progress.value = d),
    best: (d: { plan: Found }) => (best.value = d.plan),
    settled: (d: { plan: Found; reading: string | null }) => {
      best.value = d.plan
      reading.value = d.reading
      proved.value = true
    },
    stuck: (d: Stuck) => (stuck.value = d),
    point: (d: { plan: Found }) => (front.value = [...front.value.filter((p) => p.key !== d.plan.key), d.plan]),
    done: (d: { left_out: { what: string; why: string }[]; cheaper: Cheaper | null }) => {
      leftOut.value = d.left_out
      cheaper.value = d.cheaper
      ended.value = 'done'
    },
    stopped: () => (ended.value = 'stopped'),
    refused: (d: { text: string }) => {
      refused.value = d.text
      ended.value = 'refused'
    },
    failed: () => (ended.value = 'failed'),
  }

  function follow(id: string, anew = true) {
    close()
    if (anew) clear()
    source = new EventSource(`/api/runs/${id}/events`)
    source.addEventListener('open', () => (adrift.value = false))
    source.addEventListener('error', () => (adrift.value = true))
    for (const [kind, hear] of Object.entries(HEARD)) source.addEventListener(kind, (e) => hear(JSON.parse(e.data) as never))
    source.addEventListener('end', close)
  }

  async function search() {
    failed.value = ''
    try {
      const { data, error } = await api.POST('/api/jobs/{id}/plan', { params: { path: { id: job.id } }, body: {} })
      if (!data) return void (failed.value = error?.message ?? 'The search could not be begun.')
      run.value = data
      follow(data.id)
    } catch {
      failed.value = AWAY
    }
  }

  async function act(what: 'stop' | 'go_on') {
    if (!run.value) return
    try {
      await api.POST('/api/runs/{id}/act', { params: { path: { id: run.value.id } }, body: { act: what } })
      if (what === 'go_on') follow(run.value.id)
    } catch {
      failed.value = AWAY
    }
  }

  // A search begun before is found again.
  watch(
    () => job.id,
    async (id) => {
      close()
      clear()
      run.value = null
      if (!id || job.readonly) return
      try {
        const { data } = await api.GET('/api/jobs/{id}/plan', { params: { path: { id } } })
        if (data?.run && job.id === id) {
          run.value = data.run
          follow(data.run.id)
        }
      } catch {
        // The screen stands as where nothing was searched.
      }
    },
    { immediate: true },
  )
  tryOnScopeDispose(close)

  return { run, failed, adrift, tried, progress, axis, best, proved, reading, front, stuck, refused, leftOut, cheaper, ended, search, act }
}
