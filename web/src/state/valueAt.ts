/**
 * Finds what stands at a place of the job document. Rows of a list are found by
 * their id: /loads/l7/name.
 */
export function valueAt(document: unknown, at: string): unknown {
  let node: unknown = document
  for (const step of at.split('/').slice(1)) {
    if (Array.isArray(node)) node = node.find((row: { id?: string }) => row.id === step)
    else if (node !== null && typeof node === 'object') node = (node as Record<string, unknown>)[step]
    else return undefined
  }
  return node
}
