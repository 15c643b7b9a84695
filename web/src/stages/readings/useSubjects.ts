import { computed } from 'vue'
import type { Figure, Load, Reading, Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useStageView } from '../../state/useStageView'

export interface Subject {
  key: string
  loadId: string
  choiceId?: string
  name: string
  detail: string
  load: Load
  readings: Reading[]
  reading?: Reading
  view?: Schemas['ReadingView']
  measured: boolean
  stale: boolean
  amps: number | null
  figure: Figure | null
  plan: Schemas['Plan'] | null
  claim: Schemas['ClaimView'] | null
  claimAt: string
}

/** Everything that can be measured: each load as it came in, each part chosen. */
export function useSubjects() {
  const job = useJob()
  const { view, failed } = useStageView('readings')

  const subjects = computed<Subject[]>(() => {
    const document = job.document
    if (!document || !view.value) return []
    const views = Object.fromEntries(view.value.readings.map((r) => [r.id, r]))
    const loadViews = Object.fromEntries(view.value.loads.map((l) => [l.id, l]))
    const plans = Object.fromEntries(view.value.plans.map((p) => [p.id, p]))

    function subject(load: Load, choice?: Schemas['job_choice']): Subject {
      const readings = document!.readings.filter((r) => r.load_id === load.id && r.choice_id === choice?.id)
      const reading = readings.findLast((r) => views[r.id]?.counts) ?? readings.at(-1)
      const view = reading ? views[reading.id] : undefined
      const stale = view?.stale ?? false
      const computedLoad = loadViews[load.id]
      const planned = plans[load.id]
      return {
        key: choice ? `${load.id}.${choice.id}` : load.id,
        loadId: load.id,
        choiceId: choice?.id,
        name: choice ? (choice.part?.name ?? load.name) : load.name,
        detail: choice ? `in place of ${load.name}` : [load.base, load.position].filter(Boolean).join(', '),
        load,
        readings,
        reading,
        view,
        measured: view?.counts ?? false,
        stale,
        amps: view?.amps ?? null,
        figure: (choice ? computedLoad?.after : (computedLoad?.before ?? computedLoad?.after)) ?? null,
        plan: (choice ? planned?.plan_after : planned?.plan) ?? null,
        claim: view?.claim ?? (choice ? planned?.claim_after : planned?.claim) ?? null,
        claimAt: choice ? `/choices/${choice.id}/part/claim` : `/loads/${load.id}/claim`,
      }
    }

    const asCameIn = document.loads.map((l) => subject(l))
    const chosen = document.choices
      .filter((c) => c.action === 'swap')
      .flatMap((c) => {
        const load = document.loads.find((l) => l.id === c.load_id)
        return load ? [subject(load, c)] : []
      })
    return [...asCameIn, ...chosen]
  })

  return { subjects, view, failed }
}
