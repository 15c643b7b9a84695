const named = (list: [string, string][]) => list.map(([key, label]) => ({ key, label }))

export const KINDS = named([
  ['bulb', 'bulb in the old reflector'],
  ['unit', 'whole unit'],
  ['projector', 'projector unit'],
])
export const CAPS = ['H4', 'HS1', 'H7', 'H11', 'HB3', 'HB4', 'H27W/1', 'H1', 'H3', 'S2'].map((key) => ({ key, label: key }))
export const SIZES = named([
  ['7in', '7 in round'],
  ['5.75in', '5¾ in round'],
  ['4.5in', '4½ in round'],
  ['90mm', '90 mm projector'],
])
export const CONNECTORS = named([
  ['three_blades', 'three blades'],
  ['two_blades', 'two blades'],
  ['sealed_two', 'sealed, two pins'],
  ['sealed_three', 'sealed, three pins'],
  ['bullets', 'bullets'],
  ['leads', 'bare leads'],
])
export const POLARITIES = named([
  ['left', 'left'],
  ['right', 'right'],
  ['top', 'top'],
  ['either', 'either way'],
])
export const RETENTIONS = named([
  ['clip', 'spring clip'],
  ['ring', 'turning ring'],
  ['screws', 'screws'],
  ['friction', 'friction alone'],
])
export const MARKS = named([
  ['none', 'none'],
  ['e_mark', 'E-mark'],
  ['dot_sae', 'DOT/SAE'],
  ['both', 'both'],
])
export const VERDICTS: Record<string, { label: string; tone: string }> = {
  fits: { label: 'fits', tone: 'text-moss' },
  work: { label: 'fits with work', tone: 'text-brass' },
  no: { label: 'does not fit', tone: 'text-brick' },
  unknown: { label: 'unknown', tone: 'text-dim' },
}
export const SUPPLIES = named([
  ['dc', 'DC only'],
  ['ac', 'AC only'],
  ['either', 'AC or DC'],
])
