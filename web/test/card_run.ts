import { readFileSync } from 'node:fs'
import { clockText, makeClock } from '../src/stages/fit/clock'
import { overlaid } from '../src/stages/fit/overlaid'

/** A step with what waits over it, and a clock that is run and paused by a script of [ms from the last, what]. */
interface Input {
  step: Parameters<typeof overlaid>[0]
  waiting: Parameters<typeof overlaid>[1][]
  clock: [number, 'run' | 'pause' | 'take' | 'look'][]
  begun: number
  texts: number[]
}
const input = JSON.parse(readFileSync(0, 'utf8')) as Input
let now = 0
const clock = makeClock(() => now, input.begun)
const counted = input.clock.map(([ms, deed]) => {
  now += ms
  if (deed === 'take') return clock.take()
  if (deed === 'look') return clock.spent()
  clock[deed]()
  return clock.running()
})
console.log(JSON.stringify({ steps: input.waiting.map((rows) => overlaid(input.step, rows)), counted, texts: input.texts.map(clockText) }))
