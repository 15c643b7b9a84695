import { computed } from 'vue'
import type { Figure, Line } from '../api/client'
import { useJob } from '../state/useJob'

type Side = 'before' | 'after'

/**
 * What the rail shows at the speed the slider stands at. Every number is the
 * server's: its own line for the scenario's speed, else its sampled curve.
 */
export function useRail() {
  const job = useJob()
  const budget = computed(() => job.budget)
  const scenario = computed(() => budget.value?.scenarios.find((s) => s.id === budget.value?.scenario))
  const curve = computed(() => (budget.value?.curve?.earns ? budget.value.curve : null))
  const running = computed(() => scenario.value?.engine === 'running')
  const ownRpm = computed(() => scenario.value?.rpm ?? null)

  /** Index into the curve when the slider was moved off the scenario's own speed. */
  const moved = computed(() => {
    if (job.rpm === null || !curve.value) return null
    const step = curve.value.rpm[1] - curve.value.rpm[0]
    return Math.min(curve.value.rpm.length - 1, Math.max(0, Math.round(job.rpm / step)))
  })
  const rpm = computed(() => (moved.value === null ? ownRpm.value : (curve.value as { rpm: number[] }).rpm[moved.value]))

  function line(side: Side): Line | undefined {
    return scenario.value?.lines.find((l) => l.side === side && l.circuit === budget.value?.circuit)
  }

  function sampled(series: { before?: number[] | null; after?: number[] | null } | undefined, side: Side): number | null {
    return moved.value === null ? null : (series?.[side]?.[moved.value] ?? null)
  }

  const earns = computed<Figure | undefined>(() => {
    const own = line('after')?.earns
    if (moved.value === null || !curve.value) return own
    return {
      value: curve.value.earns?.[moved.value] ?? null,
      sigma: curve.value.earns_sigma?.[moved.value],
      unit: 'A',
      assumed: own?.assumed ?? false,
    }
  })

  function keeps(side: Side): Figure | undefined {
    const own = line(side)?.keeps
    if (moved.value === null || !own) return own
    return { ...own, id: undefined, value: sampled(curve.value?.keeps, side), sigma: sampled(curve.value?.keeps_sigma, side) }
  }

  function systemV(side: Side): Figure | undefined {
    const own = line(side)?.system_v
    if (moved.value === null || !own) return own
    return { ...own, id: undefined, value: sampled(curve.value?.system_v, side) }
  }

  /** Left from nothing, in words; the size of the doubt decides, as the core has it. */
  function verdict(side: Side): string | null {
    if (moved.value === null) return line(side)?.verdict ?? null
    return null
  }

  return { budget, scenario, curve, running, ownRpm, moved, rpm, line, earns, keeps, systemV, verdict }
}
