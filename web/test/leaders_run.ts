import { readFileSync } from 'node:fs'
import { leaders, type Told } from '../src/rail/leaders'

/** Each case: blocks, lanes, width. */
const cases = JSON.parse(readFileSync(0, 'utf8')) as [Told[], number, number][]
process.stdout.write(JSON.stringify(cases.map((c) => leaders(...c))))
