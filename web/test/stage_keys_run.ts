import { readFileSync } from 'node:fs'
import { groupsOf, stageAtDigit, stageBeside } from '../src/app/stageKeys'

/** Stages by their groups, and what is pressed from where, on the way in; where each leads, on the way out. */
interface Input {
  stages: { stage: string; group: string }[]
  digits: [number, string][]
  steps: [string, number][]
}
const input = JSON.parse(readFileSync(0, 'utf8')) as Input
console.log(
  JSON.stringify({
    groups: groupsOf(input.stages),
    digits: input.digits.map(([digit, here]) => stageAtDigit(input.stages, digit, here)),
    steps: input.steps.map(([here, steps]) => stageBeside(input.stages, here, steps)),
  }),
)
