/** Switches of which only one can be on. */
const APART: Record<string, string> = { left: 'right', right: 'left' }

/** A switch turned: what is on after it. */
export function turned(on: readonly string[], key: string): string[] {
  if (on.includes(key)) return on.filter((k) => k !== key)
  return [...on.filter((k) => k !== APART[key]), key]
}

const LEAST = 0.5
const MOST = 2.5

/** A drawing's scale within bounds. */
export const bounded = (scale: number) => Math.min(MOST, Math.max(LEAST, scale))

/** What may be wanted of a lamp in one state of the switches, in the order of taps. */
const TURNS = ['on', 'off', 'flash', 'dim', 'any'] as const
export type Wanted = (typeof TURNS)[number]

/**
 * What a tap asks for: another thing than the rule's at first, then the next, at the end what the rule says again.
 * @param said what somebody said before, nothing where the rule stands
 * @param rule what is wanted now, where nobody said otherwise
 */
export function tapped(said: Wanted | undefined, rule: Wanted): Wanted | undefined {
  return said ? TURNS[TURNS.indexOf(said) + 1] : TURNS.find((t) => t !== rule)
}
