import { computed } from 'vue'
import type { Figure, Line } from '../api/client'
import { useJob } from '../state/useJob'
import { useReference } from '../state/useReference'
import { blocksOf } from './blocks'
import { useCurve } from './useCurve'

type Side = 'before' | 'after'
/** The steps of a conversion, in their order. */
const STEPS = ['before', 'lamps', 'after'] as const
type Step = (typeof STEPS)[number]
type Sampled<T> = { before?: T[] | null; lamps?: T[] | null; after?: T[] | null } | undefined

/**
 * What the rail shows at the speed the slider stands at. Every number and every verdict is
 * the server's: its own line for the scenario's speed, else its sampled curve.
 */
export function useRail() {
  const job = useJob()
  const reference = useReference()
  const { data } = useCurve()
  const rail = computed(() => job.rail)
  const scenario = computed(() => job.document?.scenarios.find((s) => s.id === rail.value?.scenario))
  const circuits = computed(() => (job.document?.circuits ?? []).map((c) => ({ id: c.id, name: c.name ?? c.id })))
  const running = computed(() => rail.value?.engine === 'running')
  const ownRpm = computed(() => rail.value?.rpm ?? null)
  /** The curve of what is looked at: one of another scenario is not shown meanwhile. */
  const curve = computed(() =>
    data.value?.earns && data.value.scenario === rail.value?.scenario && data.value.circuit === rail.value.circuit ? data.value : null,
  )

  /** Index into the curve when the slider was moved off the scenario's own speed. */
  const moved = computed(() => {
    if (job.rpm === null || !curve.value || !rail.value) return null
    return Math.min(curve.value.rpm.length - 1, Math.max(0, Math.round(job.rpm / rail.value.step)))
  })
  const rpm = computed(() => (moved.value === null ? ownRpm.value : curve.value!.rpm[moved.value]))

  function line(side: Side): Line | undefined {
    return rail.value?.lines[side] ?? undefined
  }

  function sampled<T>(series: Sampled<T>, step: Step): T | null {
    return moved.value === null ? null : (series?.[step]?.[moved.value] ?? null)
  }

  const kept = (step: Step) => (step === 'lamps' ? rail.value?.lamps : line(step)) ?? undefined

  const earns = computed<Figure | undefined>(() => {
    const own = line('after')?.earns
    if (moved.value === null || !curve.value) return own
    const value = curve.value.earns?.[moved.value] ?? null
    return { value, sigma: curve.value.earns_sigma?.[moved.value], unit: 'A', assumed: own?.assumed ?? false }
  })

  function keeps(step: Step): Figure | undefined {
    const own = kept(step)?.keeps
    if (moved.value === null || !own) return own
    return { ...own, id: undefined, value: sampled(curve.value?.keeps, step), sigma: sampled(curve.value?.keeps_sigma, step) }
  }

  function systemV(side: Side): Figure | undefined {
    const own = line(side)?.system_v
    if (moved.value === null || !own) return own
    return { ...own, id: undefined, value: sampled(curve.value?.system_v, side) }
  }

  function verdict(step: Step): string | null {
    return moved.value === null ? (kept(step)?.verdict ?? null) : sampled(curve.value?.verdicts, step)
  }

  /** What is kept at each step, a saving before it is spent. */
  const steps = computed(() =>
    STEPS.map((step) => ({
      key: step,
      label: reference.tables?.steps[step] ?? '',
      keeps: keeps(step),
      verdict: verdict(step),
      same: step === 'before' ? undefined : rail.value?.same[step],
    })),
  )

  const blocks = computed(() => ({
    before: blocksOf('before', rail.value?.blocks.before, job.document, reference.origins),
    after: blocksOf('after', rail.value?.blocks.after, job.document, reference.origins),
  }))

  return { rail, scenario, circuits, curve, running, ownRpm, moved, rpm, line, earns, keeps, systemV, verdict, steps, blocks }
}
