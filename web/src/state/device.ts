import { freshId } from '../api/client'

const KEY = 'miser.device'

/** What this browser is called in what is written down at a machine, so that two tablets are told apart. */
export function device(): string {
  try {
    const kept = localStorage.getItem(KEY)
    if (kept) return kept
    const fresh = freshId()
    localStorage.setItem(KEY, fresh)
    return fresh
  } catch {
    return (unkept ??= freshId())
  }
}
let unkept: string | undefined
