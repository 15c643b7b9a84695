import createClient from 'openapi-fetch'
import type { components, paths } from './schema.generated'

export type Schemas = components['schemas']
export type JobView = Schemas['JobView']
export type Job = Schemas['job']
export type BudgetView = Schemas['BudgetView']
export type Figure = Schemas['Figure']
export type Line = Schemas['Line']
export type Block = Schemas['Block']
export type Edit = Schemas['Edit']
export type FieldError = Schemas['FieldError']
export type Refusal = Schemas['Refusal']
export type Part = Schemas['job_part']
export type Load = Schemas['job_load']
export type Reading = Schemas['job_reading']
export type Reference = Schemas['Reference']

export const api = createClient<paths>({ baseUrl: '/' })

/** A short random id for a new row; the server keeps rows apart by it. */
export function freshId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(7))
  return Array.from(bytes, (b) => (b % 36).toString(36)).join('')
}
