import createClient from 'openapi-fetch'
import type { components, paths } from './schema.generated'

export type Schemas = components['schemas']
export type JobView = Schemas['JobView']
export type JobChange = Schemas['JobChange']
export type DocumentChange = Schemas['DocumentChange']
export type Job = Schemas['job']
export type Figure = Schemas['Figure']
export type Line = Schemas['Line']
export type Edit = Schemas['Edit']
export type FieldError = Schemas['FieldError']
export type Refusal = Schemas['Refusal']
export type Part = Schemas['job_part']
export type Load = Schemas['job_load']
export type Reading = Schemas['job_reading']
export type Reference = Schemas['Reference']
export type Want = Schemas['Want']
export type ActName = Schemas['Act']['act']

export const api = createClient<paths>({ baseUrl: '/' })

/** Stages whose view the contract knows. */
export type StageKey = { [P in keyof paths]: P extends `/api/jobs/{id}/stages/${infer K}` ? K : never }[keyof paths]
export type StageView<K extends StageKey> = paths[`/api/jobs/{id}/stages/${K}`] extends {
  get: { responses: { 200: { content: { 'application/json': infer V } } } }
}
  ? V
  : never

/** What an answer said, or why there is none. */
export interface Answer<T> {
  data?: T
  error?: { message: string; kept?: string | null }
}

/** Said wherever the server is away. */
export const AWAY = 'Miser does not answer.'

/** A stage's view, by the stage's key: one address for all of them. */
export async function getStage<K extends StageKey>(
  job: string,
  stage: K,
  query: Record<string, string | undefined>,
): Promise<Answer<StageView<K>>> {
  const given = Object.entries(query).filter((pair): pair is [string, string] => pair[1] !== undefined)
  const response = await fetch(`/api/jobs/${encodeURIComponent(job)}/stages/${stage}?${new URLSearchParams(given)}`)
  const body = await response.json()
  return response.ok ? { data: body as StageView<K> } : { error: body as Refusal }
}

/** A short random id for a new row; the server keeps rows apart by it. */
export function freshId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(7))
  return Array.from(bytes, (b) => (b % 36).toString(36)).join('')
}
