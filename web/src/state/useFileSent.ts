import { ref } from 'vue'
import { useJob } from './useJob'

const TYPES: [RegExp, string][] = [
  [/\.hei[cf]$/i, 'image/heic'],
  [/\.pdf$/i, 'application/pdf'],
]

/** What a request calls a picture or a receipt: telephones give some of them no type. */
export const typeOf = (name: string) => TYPES.find(([ending]) => ending.test(name))?.[1] ?? 'image/jpeg'

/** The file itself is the body; the contract knows it as text. */
export const fileBody = (file: File) => ({
  headers: { 'Content-Type': typeOf(file.name) },
  body: file as unknown as string,
  bodySerializer: (body: unknown) => body as File,
})

/** A file picked and sent with a change of the job in hand; `busy` is what it was picked for. */
export function useFileSent<K>() {
  const job = useJob()
  const busy = ref<K | null>(null)
  const failed = ref('')

  async function take(
    event: Event,
    what: K,
    send: (file: File, name: string, revision: number) => ReturnType<Parameters<typeof job.send>[0]>,
  ) {
    const input = event.target as HTMLInputElement
    const file = input.files?.[0]
    if (!file) return
    busy.value = what as typeof busy.value
    failed.value = ''
    const done = await job.send((revision) => send(file, file.name.slice(0, 120), revision))
    input.value = '' // The same file, taken again, can be chosen again.
    busy.value = null
    if (!done) failed.value = job.message
  }

  return { busy, failed, take }
}
