import { tryOnScopeDispose, useIntervalFn, usePreferredReducedMotion } from '@vueuse/core'
import { computed, ref, type Ref } from 'vue'

/** What of a rhythm the eye follows; faster ones are drawn at this. */
const FASTEST_PER_MIN = 170

/**
 * Whether a contact flashing at a rate is closed just now. Where motion is not wanted,
 * or it is held still, it stays as it was set by hand.
 */
export function useFlash(rate: Ref<number | null>, share: Ref<number | null>) {
  const calm = usePreferredReducedMotion()
  const held = ref(false)
  const set = ref(true)
  const now = ref(0)
  const still = computed(() => calm.value === 'reduce' || held.value)
  const { pause } = useIntervalFn(() => (now.value = performance.now()), 40)
  tryOnScopeDispose(pause)

  const closed = computed(() => {
    if (still.value || rate.value === null) return set.value
    const period = 60_000 / Math.min(rate.value, FASTEST_PER_MIN)
    return (now.value % period) / period < (share.value ?? 0.5)
  })

  return { closed, still, held, set }
}
