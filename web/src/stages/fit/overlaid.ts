import type { Schemas } from '../../api/client'

type Step = Schemas['CardStep']
type Row = Schemas['job_card_log']

/** A step as it stands once what waits is in. What it holds for only the server knows. */
export function overlaid(step: Step, waiting: readonly Row[]): Step {
  const mine = waiting.filter((r) => r.step === step.key)
  if (mine.length === 0) return step
  const last = mine.findLast((r) => r.did === 'done' || r.did === 'open')
  const state = last ? (last.did === 'done' ? (step.held ? 'held' : 'done') : 'open') : step.state
  return {
    ...step,
    state,
    was: last ? null : step.was,
    ticked: last ? (last.did === 'done' ? { at: last.at, by: last.by ?? null } : null) : step.ticked,
    spent_s: step.spent_s + mine.reduce((sum, r) => sum + (r.spent_s ?? 0), 0),
    notes: [
      ...step.notes,
      ...mine.filter((r) => r.did === 'note').map((r) => ({ id: r.id, text: r.text ?? '', by: r.by ?? null, at: r.at })),
    ],
  }
}
