import type { Figure } from '../api/client'

const DIGITS: Record<string, number> = { A: 1, V: 1, rpm: 0, Ah: 2, h: 1, '1': 2, lx: 1, cd: 0, lm: 1, W: 1 }

/** A number with a true minus sign; a rounded nothing has none. */
export function plain(value: number, digits: number): string {
  const fixed = Math.abs(value).toFixed(digits)
  const zero = Number(fixed) === 0
  return `${value < 0 && !zero ? '−' : ''}${fixed}`
}

/** Digits worth printing: small amps get more, so that a tracker's draw is not 0.0. */
export function digitsFor(unit: string, value: number, fine = false): number {
  const base = DIGITS[unit] ?? 2
  if (base === 1 && (unit === 'lx' || unit === 'lm') && Math.abs(value) >= 100) return 0
  if (unit !== 'A') return base
  if (Math.abs(value) > 0 && Math.abs(value) < 0.05) return 3
  return fine || Math.abs(value) < 0.1 ? 2 : base
}

/** Hours as people say them. */
export function span(hours: number): { value: string; unit: string } {
  if (hours < 1) return { value: String(Math.round(hours * 60)), unit: 'min' }
  if (hours < 48) return { value: plain(hours, 1), unit: 'h' }
  return { value: plain(hours / 24, hours / 24 < 10 ? 1 : 0), unit: 'days' }
}

/** Digits that leave something of a small doubt in amps. */
function sigmaDigits(sigma: number, unit: string): number {
  if (unit !== 'A' || sigma >= 0.05) return 0
  return sigma < 0.005 ? 3 : 2
}

/** A figure as text, for titles and labels. */
export function figureText(figure: Figure): string {
  if (figure.value === null || figure.value === undefined) return `unknown: ${figure.reason ?? ''}`
  if (figure.unit === 'h') {
    const { value, unit } = span(figure.value)
    return `${value} ${unit}`
  }
  const digits = digitsFor(figure.unit, figure.value)
  const sigma = figure.sigma ? ` ± ${plain(figure.sigma, Math.max(digits, sigmaDigits(figure.sigma, figure.unit)))}` : ''
  return `${plain(figure.value, digits)}${sigma} ${figure.unit === '1' ? '' : figure.unit}`.trim()
}

/** The size of a figure whose sign is said in a word: see signWord. */
export function sizeOf(figure: Figure): Figure {
  return { ...figure, value: figure.value === null ? null : Math.abs(figure.value) }
}

/** The sign of what is left over as it is printed: a word before the figure. Whether it is enough, a verdict says. */
export function signWord(figure: Figure | null | undefined): string {
  if (!figure || figure.value === null || figure.value === undefined) return ''
  return figure.value < 0 ? 'owes' : 'keeps'
}

/** Money of whole cents; an unknown price is a question. */
export function money(cents: number | null | undefined): string {
  return cents === null || cents === undefined ? '?' : (cents / 100).toFixed(2)
}

/** Minutes; unknown ones are a question. */
export function minutes(count: number | null | undefined): string {
  return count === null || count === undefined ? '?' : plain(count, 0)
}

/** Tones of verdicts, as text classes. */
export const TONES: Record<string, string> = {
  keeps: 'text-moss',
  fits: 'text-moss',
  good: 'text-moss',
  healthy: 'text-moss',
  owes: 'text-brick',
  no: 'text-brick',
  does_not_fit: 'text-brick',
  unhealthy: 'text-brick',
  too_close: 'text-brass',
  work: 'text-brass',
  watch: 'text-brass',
}
export const toneOf = (verdict: string | null | undefined) => TONES[verdict ?? ''] ?? 'text-dim'
/** The tone of a verdict as a colour to draw with. */
export const colourOf = (verdict: string | null | undefined) => `var(--${toneOf(verdict).slice('text-'.length)})`
