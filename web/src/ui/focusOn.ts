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

function stay(field: HTMLElement, until: number) {
  const elsewhere = document.activeElement !== field && !document.activeElement?.matches('input, textarea, select')
  if (elsewhere) {
    field.focus()
    if (field instanceof HTMLInputElement) field.select()
  }
  if (performance.now() < until && field.isConnected) requestAnimationFrame(() => stay(field, until))
}
