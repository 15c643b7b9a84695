/** How long a field may take to be there, ms. */
const PATIENCE = 2000
/** How long a sheet that closes may still take the hand back to where it was, ms. */
const CLOSING = 300

/** Puts the hand on the field of a place, as soon as it is drawn and no sheet lies over it. */
export function focusOn(at: string) {
  const until = performance.now() + PATIENCE
  const reach = () => {
    const field = document.querySelector<HTMLElement>(`[data-at="${at}"]`)
    if (field && !document.querySelector('[role=dialog]')) stay(field, performance.now() + CLOSING)
    else if (performance.now() < until) requestAnimationFrame(reach)
  }
  requestAnimationFrame(reach)
}

/** Until a person does something else. */
function stay(field: HTMLElement, until: number) {
  const away = new AbortController()
  for (const kind of ['pointerdown', 'keydown']) addEventListener(kind, () => away.abort(), { capture: true, signal: away.signal })
  const hold = () => {
    if (away.signal.aborted) return
    if (document.activeElement !== field && !document.activeElement?.matches('input, textarea, select')) {
      field.focus()
      if (field instanceof HTMLInputElement) field.select()
    }
    if (performance.now() < until && field.isConnected) requestAnimationFrame(hold)
    else away.abort()
  }
  hold()
}
