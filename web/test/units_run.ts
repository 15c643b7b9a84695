import { readFileSync } from 'node:fs'
import { createPinia, setActivePinia } from 'pinia'
import { useUnits } from '../src/state/useUnits'

/** Lengths by units, as JSON on the way in; how the client says them, on the way out. */
setActivePinia(createPinia())
const units = useUnits()
const given = JSON.parse(readFileSync(0, 'utf8')) as ['metric' | 'us', number][]
const said = given.map(([system, metres]) => {
  units.units = system
  return [units.say(metres), units.small(metres)]
})
console.log(JSON.stringify(said))
