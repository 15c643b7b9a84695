import { ref } from 'vue'
import { api, type Schemas } from '../../api/client'
import { useFollowedRun } from '../../state/useFollowedRun'

/** A wall read mark by mark with the light meter. */
export function useWallRun(taken: (mark: string, lux: number) => void) {
  const lux = ref<number | null>(null)
  const { run, failed, adrift, begin, act, leave } = useFollowedRun<Schemas['WallRun']>({
    lux: (point: { value: number }) => (lux.value = point.value),
    mark: (read: { mark: string; lux: number }) => taken(read.mark, read.lux),
  })

  async function start(body: Schemas['WallRunIn']) {
    lux.value = null
    await begin(() => api.POST('/api/wall-runs', { body }))
  }

  return { run, lux, failed, adrift, start, act, leave }
}
