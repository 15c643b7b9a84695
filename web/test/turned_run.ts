import { readFileSync } from 'node:fs'
import { bounded, tapped, turned, type Wanted } from '../src/stages/wiring/turned'

const given = JSON.parse(readFileSync(0, 'utf8')) as {
  turned: { on: string[]; key: string }[]
  bounded: number[]
  tapped: { said?: Wanted; rule: Wanted }[]
}
console.log(
  JSON.stringify({
    turned: given.turned.map((c) => turned(c.on, c.key)),
    bounded: given.bounded.map(bounded),
    tapped: given.tapped.map((c) => tapped(c.said, c.rule) ?? null),
  }),
)
