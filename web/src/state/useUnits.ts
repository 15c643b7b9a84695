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

export const useUnits = defineStore('units', () => {
  const units = ref<'metric' | 'us'>('metric')

  async function fetchOnce() {
    const { data } = await api.GET('/api/shop')
    if (data) units.value = data.units
  }

  function shown(unit: string): Shown | undefined {
    return units.value === 'us' ? US[unit] : undefined
  }

  return { units, fetchOnce, shown }
})
