import { readFileSync } from 'node:fs'
import { applyChanges } from '../src/state/applyChanges'

/** Pairs of a document and what changed in it, as JSON on the way in; the documents made, on the way out. */
const pairs = JSON.parse(readFileSync(0, 'utf8')) as { document: object; changes: Parameters<typeof applyChanges>[1] }[]
const made = pairs.map(({ document, changes }) => {
  const before = JSON.stringify(document)
  const after = applyChanges(document, changes)
  if (JSON.stringify(document) !== before) throw new Error('the document given was changed')
  return after
})
console.log(JSON.stringify(made))
