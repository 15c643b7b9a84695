<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref } from 'vue'
import { useTheme } from '../state/useTheme'
import { useKeys, type Overlay } from '../ui/overlays'
import FindSheet from './FindSheet.vue'
import KeysSheet from './KeysSheet.vue'

/** What every screen answers to, wherever it lies: finding, the list of keys, the theme. */
const props = defineProps<{ overlay?: Overlay }>()
const finding = ref(false)
const keys = ref(false)
const theme = useTheme()

/** Keys mean nothing while something is being typed. */
function typing(target: EventTarget | null) {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) &&
    (target as HTMLInputElement).type !== 'range'
  )
}

useKeys((event) => {
  if (typing(event.target) || event.ctrlKey || event.metaKey || event.altKey) return
  if (event.key === '/') {
    event.preventDefault()
    finding.value = true
  } else if (event.key === '?') keys.value = true
  else if (event.key.toLowerCase() === 't') theme.toggle()
}, props.overlay ?? null)
if (!props.overlay) {
  useEventListener(window, 'miser:find', () => (finding.value = true))
  useEventListener(window, 'miser:keys', () => (keys.value = true))
}
</script>

<template>
  <FindSheet :open="finding" @close="finding = false" />
  <KeysSheet :open="keys" @close="keys = false" />
</template>
