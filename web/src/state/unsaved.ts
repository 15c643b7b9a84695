import type { Edit } from '../api/client'

/** What a window has not saved yet: kept in the browser, so that a crash loses nothing. */
export interface Unsaved {
  revision: number
  edits: Edit[]
  drafts: Record<string, string>
  meant: Record<string, string>
}

const key = (job: string) => `miser.unsaved.${job}`

export function keepUnsaved(job: string, unsaved: Unsaved) {
  if (unsaved.edits.length === 0 && Object.keys(unsaved.drafts).length === 0) localStorage.removeItem(key(job))
  else localStorage.setItem(key(job), JSON.stringify(unsaved))
}

/** @returns null where there is nothing, or nothing that can be read */
export function readUnsaved(job: string): Unsaved | null {
  const text = localStorage.getItem(key(job))
  if (!text) return null
  try {
    return JSON.parse(text) as Unsaved
  } catch {
    localStorage.removeItem(key(job))
    return null
  }
}
