/** Blocks are marked twice, by tone and by pattern, so that the rail works in grey. */
export const KINDS = {
  filament: { label: 'filament', tone: 'var(--filament)', pattern: 'url(#mark-filament)' },
  led: { label: 'LED', tone: 'var(--led)', pattern: 'url(#mark-led)' },
  engine: { label: 'engine’s own', tone: 'var(--engine)', pattern: 'url(#mark-engine)' },
  accessory: { label: 'accessory', tone: 'var(--accessory)', pattern: 'url(#mark-accessory)' },
  resistor: { label: 'load resistor', tone: 'var(--resistor)', pattern: 'url(#mark-resistor)' },
} as const
export type Kind = keyof typeof KINDS
