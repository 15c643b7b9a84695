import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api } from '../api/client'
import { useReference } from './useReference'

export interface Shown {
  unit: string
  /** SI to what is shown. */
  show: (value: number) => number
  /** What a bare number typed means, for the server to read. */
  suffix: string
}

const FEET: Shown = { unit: 'ft', show: (m) => m / 0.3048, suffix: 'ft' }
const MILLIMETRES: Shown = { unit: 'mm', show: (m) => m * 1000, suffix: 'mm' }
const INCHES: Shown = { unit: 'in', show: (m) => m / 0.0254, suffix: 'in' }

interface Length {
  value: number
  digits: number
  unit: string
}

/** How lengths and conductors are shown: metric, or feet and gauge numbers. Everything kept is SI. */
export const useUnits = defineStore('units', () => {
  const reference = useReference()
  const units = ref<'metric' | 'us'>('metric')

  /** The gauge number whose conductor comes nearest: looked up in the server's table. */
  const GAUGES: Shown = {
    unit: 'awg',
    suffix: 'awg',
    show: (area) => {
      const table = reference.tables?.gauges ?? []
      const off = (row: { area_mm2: number }) => Math.abs(row.area_mm2 - area)
      return table.reduce((best, row) => (off(row) < off(best) ? row : best), table[0] ?? { gauge: NaN, area_mm2: NaN }).gauge
    },
  }

  async function fetchOnce() {
    const { data } = await api.GET('/api/shop')
    if (data) units.value = data.units
  }

  /** How a field shows its unit; small lengths are millimetres or inches. */
  function shown(unit: string, small = false): Shown | undefined {
    if (small && unit === 'm') return units.value === 'us' ? INCHES : MILLIMETRES
    if (units.value !== 'us') return undefined
    return unit === 'm' ? FEET : unit === 'mm²' ? GAUGES : undefined
  }

  /** Whether a number was typed without a unit. */
  function bare(text: string): boolean {
    return /^\s*[-+\d.,/ ]*\d[.,]?\s*$/.test(text)
  }

  /** A length as people say it. */
  function length(metres: number): Length {
    if (units.value === 'us')
      return Math.abs(metres) < 3 ? { value: metres / 0.0254, digits: 1, unit: 'in' } : { value: metres / 0.3048, digits: 1, unit: 'ft' }
    return Math.abs(metres) < 1 ? { value: metres * 1000, digits: 0, unit: 'mm' } : { value: metres, digits: 2, unit: 'm' }
  }

  /** A small length, as a caliper has it: tenths of a millimetre, thousandths of an inch. */
  function caliper(metres: number): Length {
    const { show, unit } = shown('m', true)!
    return { value: show(metres), digits: unit === 'in' ? 3 : 1, unit }
  }

  /** A setting's value as its field shows it; lengths among them are small. */
  function settingText(value: number, unit: string): string {
    return String(unit === 'm' ? Number(shown(unit, true)!.show(value).toFixed(4)) : value)
  }

  const said = ({ value, digits, unit }: Length) => `${value < 0 ? '−' : ''}${Math.abs(value).toFixed(digits)} ${unit}`
  const small = (metres: number) => said(caliper(metres))
  /** A length in a sentence or on a drawing. */
  const say = (metres: number) => said(length(metres))

  return { units, fetchOnce, shown, length, small, say, caliper, settingText, bare }
})
