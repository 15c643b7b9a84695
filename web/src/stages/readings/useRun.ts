import { ref, shallowRef } from 'vue'
import { api, type Schemas } from '../../api/client'
import { useFollowedRun } from '../../state/useFollowedRun'

export type Run = Schemas['Run']
interface Point {
  t_s: number
  value: number
}
/** More than a chart has pixels for would only cost time. */
const MOST_POINTS = 400

/** A guided reading of one load under way, with what the meters show. */
export function useRun() {
  const amps = shallowRef<Point[]>([])
  const lux = ref<number | null>(null)
  const { run, failed, adrift, begin, act, leave } = useFollowedRun<Run>({
    amps: (point: Point) => {
      const kept = amps.value.length >= MOST_POINTS ? amps.value.filter((_, i) => i % 2 === 0) : amps.value
      amps.value = [...kept, point]
    },
    lux: (point: Point) => (lux.value = point.value),
  })

  async function start(body: Schemas['RunIn']) {
    amps.value = []
    lux.value = null
    await begin(() => api.POST('/api/runs', { body }))
  }

  async function actOn(what: 'stop' | 'again' | 'go_on') {
    if (what === 'again') amps.value = []
    await act(what)
  }

  return { run, amps, lux, failed, adrift, start, act: actOn, leave }
}
