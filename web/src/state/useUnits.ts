import { defineStore } from 'pinia'
import { ref } from 'vue'
import { api } from '../api/client'

interface Shown {
  unit: string
  /** SI to what is shown. */
  show: (value: number) => number
  /** What a bare number typed means, for the server to read. */
  suffix: string
}

/** How lengths and conductors are shown: metric, or feet and gauge numbers. Everything kept is SI. */
const US: Record<string, Shown> = {
  m: { unit: 'ft', show: (m) => m / 0.3048, suffix: 'ft' },
  // ASTM B258: diameter 0.127·92^((36−g)/39) mm.
  'mm²': { unit: 'awg', show: (area) => 36 - (39 * Math.log(Math.sqrt((4 * area) / Math.PI) / 0.127)) / Math.log(92), suffix: 'awg' },
}

const MILLIMETRES: Shown = { unit: 'mm', show: (m) => m * 1000, suffix: 'mm' }
const INCHES: Shown = { unit: 'in', show: (m) => m / 0.0254, suffix: 'in' }

export const useUnits = defineStore('units', () => {
  const units = ref<'metric' | 'us'>('metric')

  async function fetchOnce() {
    const { data } = await api.GET('/api/shop')
    if (data) units.value = data.units
  }

  /** How a field shows its unit; small lengths are millimetres or inches. */
  function shown(unit: string, small = false): Shown | undefined {
    if (small && unit === 'm') return units.value === 'us' ? INCHES : MILLIMETRES
    return units.value === 'us' ? US[unit] : undefined
  }

  /** Whether a number was typed without a unit. */
  function bare(text: string): boolean {
    return /^\s*[-+\d.,/ ]*\d[.,]?\s*$/.test(text)
  }

  /** A length as people say it. */
  function length(metres: number): { value: number; digits: number; unit: string } {
    if (units.value === 'us')
      return Math.abs(metres) < 3 ? { value: metres / 0.0254, digits: 1, unit: 'in' } : { value: metres / 0.3048, digits: 1, unit: 'ft' }
    return Math.abs(metres) < 1 ? { value: metres * 1000, digits: 0, unit: 'mm' } : { value: metres, digits: 2, unit: 'm' }
  }

  /** A small length, as a caliper has it: tenths of a millimetre, thousandths of an inch. */
  function caliper(metres: number): { value: number; digits: number; unit: string } {
    const { show, unit } = shown('m', true)!
    return { value: show(metres), digits: unit === 'in' ? 3 : 1, unit }
  }

  /** A setting's value as its field shows it; lengths among them are small. */
  function settingText(value: number, unit: string): string {
    return String(unit === 'm' ? Number(shown(unit, true)!.show(value).toFixed(4)) : value)
  }

  function small(metres: number): string {
    const { value, digits, unit } = caliper(metres)
    return `${value.toFixed(digits)} ${unit}`
  }

  return { units, fetchOnce, shown, length, small, caliper, settingText, bare }
})
