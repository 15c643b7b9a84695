/** How long a field may take to be there, ms. */
const PATIENCE = 2000

/** Puts the hand on the field of a place, as soon as it is drawn. */
export function focusOn(at: string) {
  const until = performance.now() + PATIENCE
  const reach = () => {
    const field = document.querySelector<HTMLElement>(`[data-at="${at}"]`)
    if (field) {
      field.focus()
      if (field instanceof HTMLInputElement) field.select()
    } else if (performance.now() < until) requestAnimationFrame(reach)
  }
  requestAnimationFrame(reach)
}
