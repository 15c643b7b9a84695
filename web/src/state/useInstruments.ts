import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'

/** The shop's instruments, fetched once a window. */
export const useInstruments = defineStore('instruments', () => {
  const list = ref<Schemas['Instrument'][]>([])
  const meter = computed(() => list.value.find((i) => i.kind === 'meter'))
  const light = computed(() => list.value.find((i) => i.kind === 'light_meter'))

  async function refresh() {
    try {
      const { data } = await api.GET('/api/shop')
      if (data) list.value = data.instruments
    } catch {
      // Without them everything works by hand; the save mark tells that Miser is away.
    }
  }

  return { list, meter, light, refresh }
})
