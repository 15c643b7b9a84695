import { createSharedComposable } from '@vueuse/core'
import { ref } from 'vue'
import { api } from '../api/client'
import { useFetched } from '../state/useFetched'
import { useJob } from '../state/useJob'

/** How many screens draw the curve just now. */
const drawn = ref(0)

/**
 * Earning, keeping with its verdict, and volts sampled over engine speed, of the scenario
 * and circuit looked at: fetched once for rail and charts, and only while one of them
 * shows it.
 */
export const useCurve = createSharedComposable(() => {
  const job = useJob()
  const wanted = () => job.rail?.engine === 'running' && job.rail.curve === null && (drawn.value > 0 || job.rpm !== null)

  return useFetched([() => job.id, () => job.view?.revision, () => job.rail?.scenario, () => job.rail?.circuit, wanted], () => {
    if (!wanted()) return null
    const query = { scenario: job.rail?.scenario ?? undefined, circuit: job.rail?.circuit }
    return api.GET('/api/jobs/{id}/curve', { params: { path: { id: job.id }, query } })
  })
})

export function drawsCurve() {
  drawn.value += 1
  return () => (drawn.value -= 1)
}
