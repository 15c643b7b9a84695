import { ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../api/client'
import { useJob } from './useJob'

/** The beams of the job on screen, analysed anew with each of its revisions. */
export function useBeam() {
  const job = useJob()
  const beam = shallowRef<Schemas['BeamView'] | null>(null)
  const failed = ref('')

  watch(
    [() => job.id, () => job.view?.revision],
    async ([id, revision]) => {
      try {
        const { data } = await api.GET('/api/jobs/{id}/beam', { params: { path: { id: job.id } } })
        if (data && id === job.id && revision === job.view?.revision) beam.value = data
        failed.value = data ? '' : 'The beam can’t be read.'
      } catch {
        failed.value = 'Miser does not answer.'
      }
    },
    { immediate: true },
  )

  return { beam, failed }
}
