import { readFileSync } from 'node:fs'
import { lookedBack, ofJob } from '../src/api/client'

interface Case {
  job: string
  rest: string
  query?: Record<string, string | undefined>
  back?: { job: string; revision: number }
}

/** The address each case asks, while the state it names is looked at. */
const cases = JSON.parse(readFileSync(0, 'utf8')) as Case[]
const addresses = cases.map(({ job, rest, query, back }) => {
  Object.assign(lookedBack, back ?? { job: '', revision: 0 })
  return ofJob(job, rest, query)
})
process.stdout.write(JSON.stringify(addresses))
