import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, useTemplateRef, type ComputedRef } from 'vue'

interface Margins {
  height: number
  left: number
  right: number
  top: number
  bottom: number
}

/** The width of a chart's `ref="box"`, and its horizontal scale from nothing to the end given. */
export function useFrame(margins: Margins, end: ComputedRef<number>) {
  const box = useTemplateRef<HTMLElement>('box')
  const { width } = useElementSize(box)
  const x = computed(() => scaleLinear([0, end.value], [margins.left, Math.max(width.value - margins.right, margins.left + 10)]))
  const xTicks = computed(() => x.value.ticks(Math.max(3, Math.floor(width.value / 110))))
  const foot = margins.height - margins.bottom

  return { width, x, xTicks, foot }
}
