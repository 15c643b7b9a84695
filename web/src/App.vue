<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import FindSheet from './find/FindSheet.vue'
import KeysSheet from './find/KeysSheet.vue'
import { useReference } from './state/useReference'
import { useTheme } from './state/useTheme'
import { useUnits } from './state/useUnits'

const finding = ref(false)
const keys = ref(false)
const theme = useTheme()
// Screens say themselves when the server is away.
Promise.all([useReference().fetchOnce(), useUnits().fetchOnce()]).catch(() => undefined)

/** Keys mean nothing while something is being typed. */
function typing(target: EventTarget | null) {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
    (target as HTMLInputElement).type !== 'range'
  )
}

useEventListener(window, 'keydown', (event: KeyboardEvent) => {
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '/') {
    event.preventDefault()
    finding.value = true
  } else if (event.key === '?') keys.value = true
  else if (event.key.toLowerCase() === 't') theme.toggle()
})
useEventListener(window, 'miser:find', () => (finding.value = true))
useEventListener(window, 'miser:keys', () => (keys.value = true))
</script>

<template>
  <a href="#main" class="sr-only focus:not-sr-only focus:fixed focus:z-50 focus:bg-leaf focus:p-3">Skip to the work</a>
  <RouterView />
  <FindSheet :open="finding" @close="finding = false" />
  <KeysSheet :open="keys" @close="keys = false" />
</template>
