import { readFileSync } from 'node:fs'
import * as format from '../src/ui/format'
import { valueAt } from '../src/state/valueAt'

/** Calls by name with their arguments, as JSON on the way in; what they answer, on the way out. */
const known: Record<string, (...args: never[]) => unknown> = { ...(format as object), valueAt } as never
const calls = JSON.parse(readFileSync(0, 'utf8')) as [string, never[]][]
console.log(JSON.stringify(calls.map(([name, args]) => known[name](...args) ?? null)))
