import type { Schemas } from '../../api/client'

export type Found = Schemas['PlanFound']

/** Points of the front with the best plan among them, each once, the cheapest first. */
export function points(front: Found[], best: Found | null): Found[] {
  const all = best && !front.some((p) => p.key === best.key) ? [...front, best] : front
  return [...all].sort((a, b) => a.cents - b.cents)
}

/** The letters that plans compared go by: the job as it stands is A. */
export const LETTERS = ['B', 'C', 'D']

/** Taken to the comparison, or away from it; the one touched longest ago makes room for a fourth. */
export function compared(keys: string[], key: string): string[] {
  return keys.includes(key) ? keys.filter((k) => k !== key) : [...keys, key].slice(-LETTERS.length)
}

/** The radius of a plan's dot by its minutes: it grows with their root, as areas are seen. */
export function radius(minutes: number, most: number): number {
  return most > 0 ? 6 + 9 * Math.sqrt(minutes / most) : 9
}
