import { getStage, type StageKey } from '../api/client'
import { useFetched } from './useFetched'
import { useJob } from './useJob'

/**
 * What a stage's screen shows of the job in hand, anew with each revision, each look at
 * another scenario or circuit, and each change of what else is asked.
 */
export function useStageView<K extends StageKey>(stage: K, more: () => Record<string, string | undefined> = () => ({})) {
  const job = useJob()
  const asked = () => ({ scenario: job.scenario, circuit: job.circuit, ...more() })
  const { data, failed, busy } = useFetched([() => job.id, () => job.view?.revision, asked], () =>
    job.id && job.view ? getStage(job.id, stage, asked()) : null,
  )

  return { view: data, failed, busy }
}
