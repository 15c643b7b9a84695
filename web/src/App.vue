<script setup lang="ts">
import { useEventListener } from '@vueuse/core'
import { ref, watch } from 'vue'
import { useRoute } from 'vue-router'
import SignInPage from './app/SignInPage.vue'
import FindSheet from './find/FindSheet.vue'
import KeysSheet from './find/KeysSheet.vue'
import { useMe } from './state/useMe'
import { tellWhere } from './state/usePresence'
import { useReference } from './state/useReference'
import { useTheme } from './state/useTheme'
import { useUnits } from './state/useUnits'

const finding = ref(false)
const keys = ref(false)
const theme = useTheme()
const me = useMe()
const route = useRoute()
// Screens say themselves when the server is away.
const tables = useReference()
const units = useUnits()
const fetchAll = () => Promise.all([tables.fetchOnce(), units.fetchOnce()]).catch(() => undefined)
void me.fetchMe().catch(() => undefined)
void fetchAll()
// Whoever has just come in has seen nothing of it yet.
watch(
  () => me.me?.person?.id,
  (id) => id && void fetchAll(),
)
watch(
  () => [route.fullPath, me.locked],
  () => route.matched.length > 0 && !me.locked && tellWhere(route),
  { immediate: true },
)

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
  <SignInPage v-if="me.locked" />
  <RouterView v-else />
  <FindSheet :open="finding" @close="finding = false" />
  <KeysSheet :open="keys" @close="keys = false" />
</template>
