import { ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useStageView } from '../../state/useStageView'

export type Command = Schemas['SeenView']['command']

/** The solved circuit of the job, anew whenever job, volts, lights or faults change. */
export function useSignals() {
  /** Battery volts looked at; undefined are those at rest. */
  const volts = ref<number | undefined>()
  const lights = ref(true)
  const faults = ref<string[]>([])
  const { view, failed, busy } = useStageView('signals', () => ({
    volts: volts.value?.toString(),
    lights: lights.value ? '1' : '0',
    faults: faults.value.join(','),
  }))

  return { view, failed, busy, volts, lights, faults }
}
