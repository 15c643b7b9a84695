import { readFileSync } from 'node:fs'
import { decoded } from '../src/ui/decoded'

/** Files as lists of bytes, on the way in; their texts, on the way out. */
const given = JSON.parse(readFileSync(0, 'utf8')) as number[][]
console.log(JSON.stringify(given.map((bytes) => decoded(new Uint8Array(bytes)))))
