import type { DocumentChange } from '../api/client'

type Node = Record<string, unknown> | Row[]
interface Row {
  id: string
  [key: string]: unknown
}

const steps = (at: string) =>
  at
    .split('/')
    .slice(1)
    .map((s) => s.replaceAll('~1', '/').replaceAll('~0', '~'))

/** A copy of the node with what one change says; all that it does not touch is shared. */
function changed(node: Node, [step, ...rest]: string[], change: DocumentChange): Node {
  if (step === undefined) return reordered(node as Row[], change.order!)
  if (Array.isArray(node)) {
    const place = node.findIndex((row) => row.id === step)
    if (rest.length > 0 || change.order) return node.with(place, changed(node[place], rest, change) as unknown as Row)
    if (change.gone) return node.filter((row) => row.id !== step)
    return place < 0 ? [...node, change.value as Row] : node.with(place, change.value as Row)
  }
  const copy = { ...node }
  if (rest.length > 0 || change.order) copy[step] = changed(copy[step] as Node, rest, change)
  else if (change.gone) delete copy[step]
  else copy[step] = change.value
  return copy
}

function reordered(rows: Row[], order: string[]): Row[] {
  const byId = new Map(rows.map((row) => [row.id, row]))
  return order.map((id) => byId.get(id)!)
}

/** What the server says changed in a document, made in the copy that the window has. */
export function applyChanges<D>(document: D, changes: DocumentChange[]): D {
  return changes.reduce<Node>((node, change) => changed(node, steps(change.at), change), document as Node) as D
}
