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

/** The state of a job that is looked at in place of how it stands; none where the revision is 0. */
export const lookedBack = { job: '', revision: 0 }

/** An address of a job, at the state that is looked at. */
export function ofJob(job: string, rest: string, query: Record<string, string | number | undefined> = {}): string {
  const at = lookedBack.job === job && lookedBack.revision ? { at: lookedBack.revision } : {}
  const given = Object.entries({ ...query, ...at }).filter(([, value]) => value !== undefined)
  const asked = given.length > 0 ? `?${new URLSearchParams(given.map(([key, value]) => [key, String(value)]))}` : ''
  return `/api/jobs/${encodeURIComponent(job)}/${rest}${asked}`
}

/** Whatever is answered, it is told where somebody must sign in first. */
function heard(response: Response) {
  if (response.status === 401 && !/[/](auth|pin)[/]/.test(response.url)) window.dispatchEvent(new Event('miser:signed-out'))
}

api.use({
  onRequest({ request }) {
    const url = new URL(request.url)
    const own = url.pathname === `/api/jobs/${lookedBack.job}` || url.pathname.startsWith(`/api/jobs/${lookedBack.job}/`)
    if (request.method !== 'GET' || !lookedBack.revision || !own || url.pathname.endsWith('/history')) return undefined
    url.searchParams.set('at', String(lookedBack.revision))
    return new Request(url, request)
  },
  onResponse: ({ response }) => heard(response),
})

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
  const response = await fetch(ofJob(job, `stages/${stage}`, query))
  heard(response)
  const body = await response.json()
  return response.ok ? { data: body as StageView<K> } : { error: body as Refusal }
}

/** A short random id for a new row; the server keeps rows apart by it. */
export function freshId(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(7))
  return Array.from(bytes, (b) => (b % 36).toString(36)).join('')
}
