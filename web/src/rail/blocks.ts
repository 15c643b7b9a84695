import type { Job, Schemas } from '../api/client'

export interface Block {
  /** By which its working is asked for. */
  id: string
  load: string
  name: string
  part: string | null
  kind: Schemas['BlockColumns']['kind'][number]
  amps: number | null
  sigma: number | null
  duty: number
  origin: string | null
}

/** The rail's blocks of one side, a row each, named as the document names them. */
export function blocksOf(
  side: 'before' | 'after',
  columns: Schemas['BlockColumns'] | null | undefined,
  document: Job | undefined,
  origins: Record<string, string>,
): Block[] {
  if (!columns || !document) return []
  const names = new Map(document.loads.map((l) => [l.id, l.name]))
  const fitted = new Map(
    document.choices.filter((c) => c.action === 'swap' || c.action === 'add').map((c) => [c.position_id, c.part?.name]),
  )
  const parts = new Map(document.loads.map((l) => [l.id, (l.position_id && fitted.get(l.position_id)) || null]))
  return columns.load.map((load, i) => {
    const origin = columns.origin[i]
    return {
      id: `load/${side}/${load}`,
      load,
      name: names.get(load) ?? load,
      part: side === 'after' ? (parts.get(load) ?? null) : null,
      kind: columns.kind[i],
      amps: columns.amps[i],
      sigma: columns.sigma[i],
      duty: columns.duty[i],
      origin: origin === null ? null : (origins[origin] ?? origin),
    }
  })
}
