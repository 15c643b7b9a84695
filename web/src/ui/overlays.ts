import { useEventListener } from '@vueuse/core'
import { onBeforeUnmount, shallowReactive, watch } from 'vue'

/** What lies over the page, the topmost last: it alone owns the keys. */
const open = shallowReactive<symbol[]>([])

export interface Overlay {
  top: () => boolean
  level: () => number
}

/** Takes part in the stack as long as it is open. */
export function useOverlay(isOpen: () => boolean = () => true): Overlay {
  const me = Symbol('overlay')
  const leave = () => {
    const at = open.indexOf(me)
    if (at >= 0) open.splice(at, 1)
  }
  watch(
    isOpen,
    (yes) => {
      leave()
      if (yes) open.push(me)
    },
    { immediate: true },
  )
  onBeforeUnmount(leave)
  return { top: () => open.at(-1) === me, level: () => open.indexOf(me) }
}

/** Keys of an overlay while it is the topmost; without one, of the page while nothing lies over it. */
export function useKeys(handle: (event: KeyboardEvent) => void, overlay: Overlay | null = null, options: { capture?: boolean } = {}) {
  useEventListener(
    window,
    'keydown',
    (event: KeyboardEvent) => {
      if (overlay ? overlay.top() : open.length === 0) handle(event)
    },
    options,
  )
}
