<script setup lang="ts">
import { watch } from 'vue'
import { useRoute } from 'vue-router'
import SignInPage from './app/SignInPage.vue'
import FindAndKeys from './find/FindAndKeys.vue'
import { useMe } from './state/useMe'
import { tellWhere } from './state/usePresence'
import { useReference } from './state/useReference'
import { useUnits } from './state/useUnits'

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
</script>

<template>
  <a href="#main" class="sr-only focus:not-sr-only focus:fixed focus:z-50 focus:bg-leaf focus:p-3">Skip to the work</a>
  <SignInPage v-if="me.locked" />
  <RouterView v-else />
  <FindAndKeys />
</template>
