import { effectScope, nextTick, ref } from 'vue'
import { useFetched } from '../src/state/useFetched'

/**
 * A question asked anew whenever its source changes, against answers that come late, in any
 * order, badly or never. Prints what broke of what must hold, by seed.
 */
function random(seed: number) {
  let state = seed >>> 0
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0
    return state / 2 ** 32
  }
}

type Ending = 'data' | 'error' | 'away'
interface Asked {
  what: number
  answer: (how: Ending) => void
}
const settle = () => new Promise<void>((done) => setImmediate(done))

async function one(seed: number): Promise<string[]> {
  const chance = random(seed)
  const broken: string[] = []
  const source = ref<number | null>(0)
  let open: Asked[] = []
  const scope = effectScope()
  const { data, failed, busy } = scope.run(() =>
    useFetched<number>(
      () => source.value,
      () => {
        const what = source.value
        if (what === null) return null
        return new Promise((done, fail) => {
          const answer = (how: Ending) => {
            if (how === 'away') fail(new TypeError('away'))
            else done((how === 'data' ? { data: what } : { error: { message: `no ${what}` } }) as never)
          }
          open.push({ what, answer })
        })
      },
      'away',
    ),
  )!
  const must = (holds: boolean, words: string) => {
    if (!holds) broken.push(words)
  }
  let count = 0
  let shown: number | null = null
  for (let k = 0; k < 80; k += 1) {
    const luck = chance()
    if (luck < 0.4) source.value = ++count
    else if (luck < 0.45) source.value = null
    else if (open.length > 0) {
      const [answered] = open.splice(Math.floor(chance() * open.length), 1)
      answered.answer(luck < 0.8 ? 'data' : luck < 0.9 ? 'error' : 'away')
    }
    await nextTick()
    await settle()
    if (data.value !== shown) must(data.value === source.value, `shows ${data.value} when ${source.value} was asked last`)
    shown = data.value
    if (source.value === null) must(data.value === null && failed.value === '' && !busy.value, 'nothing is asked, yet something shows')
    else must(busy.value === open.some((a) => a.what === source.value), `busy is ${busy.value}`)
  }
  source.value = ++count
  await nextTick()
  for (const asked of open.reverse()) asked.answer('data')
  open = []
  await settle()
  must(data.value === count && failed.value === '' && !busy.value, `ends with ${data.value}, not ${count}`)
  scope.stop()
  source.value = count + 1
  await nextTick()
  must(open.length === 0, 'asks after it was left')
  return broken
}

const [first, runs] = process.argv.slice(2).map(Number)
const found: { seed: number; broken: string[] }[] = []
for (let seed = first; seed < first + runs; seed += 1) {
  const broken = await one(seed)
  if (broken.length > 0) found.push({ seed, broken: broken.slice(0, 4) })
}
console.log(JSON.stringify({ runs, found }))
