import { ref } from 'vue'
import { api } from '../api/client'
import { useJob } from './useJob'

/** Takes an LM-63 file from a file field into the job: to be looked at, or for a headlight thought of. */
export function usePhotometryFile() {
  const job = useJob()
  const failed = ref('')

  async function take(event: Event, part?: string) {
    const input = event.target as HTMLInputElement
    const file = input.files?.[0]
    if (!file) return
    const text = await file.text()
    input.value = '' // The same file, mended, can be chosen again.
    const done = await job.send((revision) =>
      api.POST('/api/jobs/{id}/photometry', {
        params: { path: { id: job.id } },
        body: { text, name: file.name.slice(0, 120), part, revision },
      }),
    )
    failed.value = done ? '' : job.message
  }

  return { take, failed }
}
