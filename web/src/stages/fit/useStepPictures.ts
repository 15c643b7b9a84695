import { del, entries, set } from 'idb-keyval'
import { onMounted, ref } from 'vue'
import { useEventListener } from '@vueuse/core'
import { api, freshId } from '../../api/client'
import { fileBody } from '../../state/useFileSent'
import { useJob } from '../../state/useJob'

interface Waiting {
  job: string
  step: string
  name: string
  file: File
}
const PREFIX = 'miser.picture.'
const RETRY_MS = 4000

/** Photographs taken at steps: kept in the browser until the server has them. */
export function useStepPictures() {
  const job = useJob()
  const waiting = ref(0)
  const failed = ref('')
  let sending = false
  let timer: ReturnType<typeof setTimeout> | undefined

  async function take(event: Event, step: string) {
    const input = event.target as HTMLInputElement
    const file = input.files?.[0]
    if (!file) return
    input.value = ''
    failed.value = ''
    try {
      await set(`${PREFIX}${freshId()}`, { job: job.id, step, name: file.name.slice(0, 120), file } satisfies Waiting)
    } catch {
      failed.value = 'This browser keeps no photographs; take it again once Miser answers.'
    }
    void send()
  }

  async function send() {
    if (sending || !job.view) return
    sending = true
    clearTimeout(timer)
    try {
      const all = (await entries<string, Waiting>()).filter(([key, kept]) => String(key).startsWith(PREFIX) && kept.job === job.id)
      waiting.value = all.length
      for (const [key, kept] of all) {
        if (!(await one(key, kept))) {
          timer = setTimeout(() => void send(), RETRY_MS)
          break
        }
        waiting.value -= 1
      }
    } catch {
      // A browser that keeps nothing has nothing to send.
      waiting.value = 0
    } finally {
      sending = false
    }
  }

  /** @returns whether it is off our hands: taken, or never to be taken */
  async function one(key: string, kept: Waiting): Promise<boolean> {
    let status = 0
    const query = (revision: number) => ({ step: kept.step, name: kept.name, photograph: key.slice(PREFIX.length), revision })
    const done = await job.send(async (revision) => {
      const answer = await api.POST('/api/jobs/{id}/step-photographs', {
        params: { path: { id: kept.job }, query: query(revision) },
        ...fileBody(kept.file),
      })
      status = answer.response.status
      return answer
    })
    if (!done && ![400, 413, 415, 422].includes(status)) {
      // It is kept here and goes later: nobody needs to be told more than that.
      job.message = ''
      return false
    }
    if (!done) failed.value = job.message
    job.message = ''
    await del(key)
    return true
  }

  onMounted(() => void send())
  useEventListener(window, 'online', () => void send())
  return { waiting, failed, take, send }
}
