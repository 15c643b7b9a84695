import { useDebounceFn } from '@vueuse/core'
import { ref, shallowRef, watch } from 'vue'
import { api, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'

export type Command = 'off' | 'left' | 'right' | 'hazard'

/** The solved circuit of the job, anew whenever job, volts, lights or faults change. */
export function useSignals() {
  const job = useJob()
  const view = shallowRef<Schemas['SignalsView'] | null>(null)
  const failed = ref('')
  const busy = ref(false)
  const volts = ref(12.6)
  const lights = ref(true)
  const faults = ref<string[]>([])
  let turn = 0

  const solve = useDebounceFn(async () => {
    const mine = ++turn
    busy.value = true
    try {
      const { data, error } = await api.GET('/api/jobs/{id}/signals', {
        params: {
          path: { id: job.id },
          query: { volts: String(volts.value), lights: lights.value ? '1' : '0', faults: faults.value.join(',') },
        },
      })
      if (mine !== turn) return
      if (data) view.value = data
      failed.value = data ? '' : (error?.message ?? 'The circuit could not be solved.')
    } catch {
      if (mine === turn) failed.value = 'Miser does not answer.'
    } finally {
      if (mine === turn) busy.value = false
    }
  }, 60)
  watch([() => job.id, () => job.view?.revision, volts, lights, faults], () => void solve(), { immediate: true, deep: true })

  return { view, failed, busy, volts, lights, faults, solve }
}
