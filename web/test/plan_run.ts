import { readFileSync } from 'node:fs'
import { compared, points, radius, type Found } from '../src/stages/plan/points'
import { centsOf, countOf } from '../src/ui/typed'

interface Input {
  cents: string[]
  counts: string[]
  front: [string, number][]
  best: [string, number]
  touched: string[]
}
const input = JSON.parse(readFileSync(0, 'utf8')) as Input
const found = ([key, cents]: [string, number]) => ({ key, cents }) as Found
const or = (value: number | null | undefined) => (value === undefined ? 'nothing' : value)
console.log(
  JSON.stringify({
    cents: input.cents.map((t) => or(centsOf(t))),
    counts: input.counts.map((t) => or(countOf(t))),
    points: points(input.front.map(found), found(input.best)).map((p) => p.key),
    held: input.touched.reduce<string[]>(compared, []),
    radius: [radius(0, 100), radius(25, 100), radius(100, 100), radius(0, 0)],
  }),
)
