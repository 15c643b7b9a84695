import { computed } from 'vue'
import type { Figure, Load, Reading, Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { useStageView } from '../../state/useStageView'

export interface Subject {
  key: string
  loadId: string
  choiceId?: string
  base?: string
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
  /** What the wire to a lamp loses, as it came in. */
  wire: string | null
}

type Planned = Pick<Schemas['LoadPlan'], 'plan' | 'claim'> & Partial<Pick<Schemas['LoadPlan'], 'wire'>>

/** Everything that can be measured: each load as it came in, each function of a part fitted or tried. */
export function useSubjects() {
  const job = useJob()
  const { view, failed } = useStageView('readings')

  const subjects = computed<Subject[]>(() => {
    const document = job.document
    if (!document || !view.value) return []
    const views = Object.fromEntries(view.value.readings.map((r) => [r.id, r]))
    const loadViews = Object.fromEntries(view.value.loads.map((l) => [l.id, l]))
    const places = Object.fromEntries(document.positions.map((p) => [p.id, p]))
    const base = (load: Load) => (load.position_id ? places[load.position_id]?.holder?.base : load.base)

    function subject(load: Load, planned: Planned, part?: Schemas['PartPlan']): Subject {
      const readings = document!.readings.filter((r) => r.load_id === load.id && r.choice_id === part?.choice_id)
      const reading = readings.findLast((r) => views[r.id]?.counts) ?? readings.at(-1)
      const view = reading ? views[reading.id] : undefined
      const stale = view?.stale ?? false
      const computedLoad = loadViews[load.id]
      const place = load.position_id ? places[load.position_id] : undefined
      const where = place?.place ?? [place?.end, place?.side].filter(Boolean).join(' ')
      return {
        key: part ? `${load.id}.${part.choice_id}` : load.id,
        loadId: load.id,
        choiceId: part?.choice_id,
        base: base(load),
        name: part?.name ?? load.name,
        detail: part?.detail ?? [base(load), where || load.position].filter(Boolean).join(', '),
        load,
        readings,
        reading,
        view,
        measured: view?.counts ?? false,
        stale,
        amps: view?.amps ?? null,
        figure: part?.figure ?? computedLoad?.before ?? computedLoad?.after ?? null,
        plan: planned.plan,
        claim: view?.claim ?? planned.claim,
        wire: planned.wire ?? null,
        claimAt: part ? `/choices/${part.choice_id}/part/functions/${part.function_id}/claim` : `/loads/${load.id}/claim`,
      }
    }
    const loads = Object.fromEntries(document.loads.map((l) => [l.id, l]))

    const asCameIn = view.value.plans.flatMap((p) => (loads[p.id] ? [subject(loads[p.id], p)] : []))
    const parts = view.value.parts.flatMap((p) => (loads[p.load_id] ? [subject(loads[p.load_id], p, p)] : []))
    return [...asCameIn, ...parts]
  })

  return { subjects, view, failed }
}
