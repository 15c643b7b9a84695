import { computed } from 'vue'
import { freshId, type Schemas } from '../../api/client'
import { device } from '../../state/device'
import { useJob } from '../../state/useJob'
import { useMe } from '../../state/useMe'
import { useStageView } from '../../state/useStageView'
import { overlaid } from './overlaid'

export type Step = Schemas['CardStep']
export type Cell = Schemas['TrayCell']
type Row = Schemas['job_card_log']

/** The card of the job in hand, with what was ticked here and has not arrived yet laid over it. */
export function useCard() {
  const job = useJob()
  const me = useMe()
  const { view, failed, busy } = useStageView('fit')

  /** Written down here, on its way. */
  const waiting = computed(() => job.queue.filter((e) => e.op === 'put' && e.at === '/card/log').map((e) => e.value as Row))
  const steps = computed<Step[]>(() => (view.value?.steps ?? []).map((s) => overlaid(s, waiting.value)))
  const done = computed(() => steps.value.filter((s) => s.state === 'done').length)
  const cells = computed(() => view.value?.tray.cells ?? [])

  function write(step: Step, did: Row['did'], more: Partial<Row> = {}) {
    const row: Row = {
      id: freshId(),
      step: step.key,
      did,
      at: `${new Date().toISOString().slice(0, 19)}Z`,
      device: device(),
      ...(me.me?.person ? { by: me.me.person.name } : {}),
      ...more,
    }
    job.edit([{ op: 'put', at: '/card/log', value: row }])
  }

  /** A place of the tray, entered where it was only proposed. */
  function place(cell: Cell, facts: Record<string, unknown>) {
    if (cell.kept)
      return job.edit(Object.entries(facts).map(([key, value]) => ({ op: 'set' as const, at: `/card/fasteners/${cell.id}/${key}`, value })))
    job.edit([{ op: 'put', at: '/card/fasteners', value: { id: freshId(), step: cell.step, proposal: cell.proposal, ...facts } }])
  }

  /** A fastener that no template knows of. */
  function addPlace(step: Step | null) {
    const value = { id: freshId(), count: 1, ...(step ? { step: step.key, from: step.where.slice(0, 80) } : {}) }
    job.edit([{ op: 'put', at: '/card/fasteners', value }])
  }

  return { job, view, failed, busy, steps, done, cells, waiting, write, place, addPlace }
}
