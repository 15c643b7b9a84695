import { onMounted, ref, watch } from 'vue'
import { ofJob } from '../../api/client'
import type { useJob } from '../../state/useJob'

/** What a card asks the server for: kept by the browser, so that it opens where the server is away. */
export const addresses = (job: string): string[] => [
  `/api/jobs/${encodeURIComponent(job)}`,
  ofJob(job, 'stages/fit'),
  ...['before', 'open', 'closed'].map((side) => ofJob(job, 'stages/function', { side })),
  '/api/reference',
  '/api/me',
  '/api/shop',
]

/** Keeps the machine in hand at hand. Nothing is lost where the browser can't. */
export function useAtHand(job: ReturnType<typeof useJob>) {
  const kept = ref(false)

  async function keep() {
    if (!('serviceWorker' in navigator) || !job.id) return
    try {
      await navigator.serviceWorker.register('/sw.js')
      const { active } = await navigator.serviceWorker.ready
      const { port1, port2 } = new MessageChannel()
      port1.onmessage = () => (kept.value = true)
      active?.postMessage({ keep: addresses(job.id) }, [port2])
    } catch {
      // Without it a card is there as long as its page is.
      kept.value = false
    }
  }
  onMounted(() => void keep())
  watch(
    () => job.id,
    () => void keep(),
  )
  return kept
}

window.addEventListener('miser:signed-out', () => navigator.serviceWorker?.controller?.postMessage({ forget: true }))
