import { usePreferredDark } from '@vueuse/core'
import { computed, ref } from 'vue'

const chosen = ref(document.documentElement.dataset.theme)

/** Follows the system until a theme is chosen. */
export function useTheme() {
  const system = usePreferredDark()
  const dark = computed(() => (chosen.value ? chosen.value === 'dark' : system.value))

  function toggle() {
    chosen.value = dark.value ? 'light' : 'dark'
    document.documentElement.dataset.theme = chosen.value
    try {
      localStorage.setItem('miser.theme', chosen.value)
    } catch {
      // Full or forbidden: the theme holds while the window is open.
    }
  }

  return { dark, toggle }
}
