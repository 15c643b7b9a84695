import type { Edit } from '../api/client'

/** What a window has not saved yet: kept in the browser, so that a crash loses nothing. */
export interface Unsaved {
  revision: number
  edits: Edit[]
  drafts: Record<string, string>
  meant: Record<string, string>
}

const key = (job: string) => `miser.unsaved.${job}`

/** @returns whether it is kept: a browser's storage may be full or forbidden */
export function keepUnsaved(job: string, unsaved: Unsaved): boolean {
  try {
    if (unsaved.edits.length === 0 && Object.keys(unsaved.drafts).length === 0) localStorage.removeItem(key(job))
    else localStorage.setItem(key(job), JSON.stringify(unsaved))
    return true
  } catch {
    return false
  }
}

/** @returns null where there is nothing, or nothing that can be read */
export function readUnsaved(job: string): Unsaved | null {
  try {
    const kept = JSON.parse(localStorage.getItem(key(job)) ?? 'null') as Partial<Unsaved> | null
    return kept && Array.isArray(kept.edits) && kept.drafts && kept.meant ? (kept as Unsaved) : null
  } catch {
    return null
  }
}
