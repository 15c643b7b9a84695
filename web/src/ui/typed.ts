/** Money as it is typed, 6.90 or 6,90, in whole cents; null where it is no money, undefined where nothing is typed. */
export function centsOf(text: string): number | null | undefined {
  const typed = text.trim()
  if (!typed) return undefined
  return /^\d{1,7}([.,]\d{1,2})?$/.test(typed) ? Math.round(Number(typed.replace(',', '.')) * 100) : null
}

/** A number as people type it: a comma or a point, a true minus or a hyphen. Null where it is none. */
export function numberOf(text: string): number | null {
  const plain = text.trim().replace('−', '-').replace(',', '.')
  return /^[-+]?(\d+\.?\d*|\.\d+)$/.test(plain) ? Number(plain) : null
}

/** A whole number as it is typed; null where it is none, undefined where nothing is typed. */
export function countOf(text: string): number | null | undefined {
  const typed = text.trim()
  if (!typed) return undefined
  return /^\d{1,6}$/.test(typed) ? Number(typed) : null
}
