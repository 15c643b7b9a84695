import { defineStore } from 'pinia'
import { ref } from 'vue'

/** Which figures the working drawer has open, the last on top. */
export const useWorking = defineStore('working', () => {
  const trail = ref<string[]>([])

  function open(figure: string) {
    trail.value = [figure]
  }
  function into(figure: string) {
    trail.value = [...trail.value, figure]
  }
  function back() {
    trail.value = trail.value.slice(0, -1)
  }
  function close() {
    trail.value = []
  }

  return { trail, open, into, back, close }
})
