<script setup lang="ts">
import { ref } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import { useFetched } from '../state/useFetched'

const { data: copies, failed, fetch } = useFetched<Schemas['Copies']>([], () => api.GET('/api/copies'))
const busy = ref(false)
const message = ref('')

async function now() {
  busy.value = true
  message.value = ''
  try {
    const { error } = await api.POST('/api/copies')
    message.value = error ? [error.message, error.kept].filter(Boolean).join(' ') : ''
    await fetch()
  } catch {
    message.value = AWAY
  } finally {
    busy.value = false
  }
}
const megabytes = (bytes: number) => (bytes / 1024 / 1024).toFixed(1)
</script>

<template>
  <section class="mt-6" aria-label="Copies">
    <h2 class="mb-2 text-lg">Copies of the shop</h2>
    <p v-if="failed" class="text-brick" role="alert">{{ failed }} <button type="button" class="btn" @click="fetch">Try again</button></p>
    <template v-if="copies?.folder">
      <p>
        The latest is <b :class="copies.tone === 'good' ? 'text-moss' : 'text-brick'" data-testid="copy-age">{{ copies.age }}</b>. One is
        made each day while Miser runs, the last {{ copies.most }} are kept.
      </p>
      <p v-if="copies.trouble" class="text-brick" role="alert">The last try failed: {{ copies.trouble }}.</p>
      <details>
        <summary class="min-h-11 cursor-pointer py-2 text-dim">Where they are ({{ copies.kept.length }})</summary>
        <p class="num text-sm break-all">{{ copies.folder }}</p>
        <p v-for="c in copies.kept" :key="c.file" class="text-sm">
          <span class="num">{{ c.file }}</span> · {{ new Date(c.at).toLocaleString() }} ·
          <span class="num">{{ megabytes(c.bytes) }} MB</span>
        </p>
        <p class="mt-1 text-sm text-dim">
          They lie on the same disk: carry one elsewhere now and then. To put one back, stop Miser, then:
          <code class="num">bin/miser restore FILE</code>
        </p>
      </details>
      <button type="button" class="btn mt-1" :disabled="busy" @click="now">{{ busy ? 'Copying …' : 'Make one now' }}</button>
    </template>
    <p v-else-if="copies" class="text-dim">None are kept here.</p>
    <p v-if="message" class="mt-2 text-brick" role="alert">{{ message }}</p>
  </section>
</template>
