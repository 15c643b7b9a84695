import { useEventListener } from '@vueuse/core'
import type { Ref } from 'vue'
import { bounded } from './turned'

/** Two fingers on an element scale what it shows; one finger pans it, as it scrolls. A wheel with the control key does the same. */
export function usePinch(target: Ref<HTMLElement | null>, scale: Ref<number>) {
  let apart = 0
  let was = 1

  const spread = (touches: TouchList) => Math.hypot(touches[0].clientX - touches[1].clientX, touches[0].clientY - touches[1].clientY)

  useEventListener(target, 'touchstart', (event: TouchEvent) => {
    if (event.touches.length !== 2) return
    apart = spread(event.touches)
    was = scale.value
  })
  useEventListener(
    target,
    'touchmove',
    (event: TouchEvent) => {
      if (event.touches.length !== 2 || apart === 0) return
      event.preventDefault()
      scale.value = bounded((was * spread(event.touches)) / apart)
    },
    { passive: false },
  )
  useEventListener(
    target,
    'wheel',
    (event: WheelEvent) => {
      if (!event.ctrlKey) return
      event.preventDefault()
      scale.value = bounded(scale.value * (event.deltaY < 0 ? 1.1 : 0.9))
    },
    { passive: false },
  )
}
