/** Counts what is spent on a step by the machine's own count, which no setting of its clock moves. */
export interface Clock {
  /** @returns s counted since it was taken last */
  spent: () => number
  running: () => boolean
  run: () => void
  pause: () => void
  /** What was counted, and from nothing again. */
  take: () => number
}

/**
 * @param now ms of a count that only goes on
 * @param begun s counted before, by a window that was closed meanwhile
 */
export function makeClock(now: () => number = () => performance.now(), begun = 0): Clock {
  let counted = begun * 1000
  let since: number | null = null

  const total = () => (counted + (since === null ? 0 : now() - since)) / 1000
  return {
    spent: total,
    running: () => since !== null,
    run() {
      since ??= now()
    },
    pause() {
      if (since !== null) counted += now() - since
      since = null
    },
    take() {
      const all = total()
      counted = 0
      if (since !== null) since = now()
      return all
    },
  }
}

/** m:ss, or h:mm:ss. */
export function clockText(seconds: number): string {
  const whole = Math.floor(seconds)
  const parts = [Math.floor(whole / 3600), Math.floor(whole / 60) % 60, whole % 60]
  const [hours, minutes, rest] = parts
  const two = (n: number) => String(n).padStart(2, '0')
  return hours > 0 ? `${hours}:${two(minutes)}:${two(rest)}` : `${minutes}:${two(rest)}`
}
