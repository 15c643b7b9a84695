interface Staged {
  stage: string
  group: string
}

/** Groups of a ticket's stages, in the order of the work; the first has the digit 1. */
export const groupsOf = (stages: readonly Staged[]): string[] => [...new Set(stages.map((s) => s.group))]

/** Where a digit leads: the first stage of its group, from within the group the next one, and after the last the first. */
export function stageAtDigit(stages: readonly Staged[], digit: number, here: string): string | null {
  const group = groupsOf(stages)[digit - 1]
  const inside = stages.filter((s) => s.group === group)
  if (inside.length === 0) return null
  const at = inside.findIndex((s) => s.stage === here)
  return inside[(at + 1) % inside.length].stage
}

/** The stage so many steps on or back; none beyond the ends. */
export function stageBeside(stages: readonly Staged[], here: string, steps: number): string | null {
  const at = stages.findIndex((s) => s.stage === here)
  return at < 0 ? null : (stages[at + steps]?.stage ?? null)
}
