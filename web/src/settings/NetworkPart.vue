<script setup lang="ts">
import { ref, watch } from 'vue'
import { api, AWAY, type Schemas } from '../api/client'
import { useMe } from '../state/useMe'

const props = defineProps<{ hosts: string[] }>()
const emit = defineEmits<{ saved: [shop: Schemas['Shop']] }>()
const me = useMe()
const text = ref('')
const wrong = ref('')
watch(
  () => props.hosts,
  (hosts) => (text.value = hosts.join(' ')),
  { immediate: true },
)

async function save() {
  wrong.value = ''
  try {
    const { data, error } = await api.PATCH('/api/shop', { body: { hosts: text.value.split(/[\s,;]+/).filter(Boolean) } })
    if (data) emit('saved', data)
    else
      wrong.value = error?.fields[0]
        ? `${error.fields[0].message}. Accepted: ${error.fields[0].accepts}.`
        : (error?.message ?? 'That did not work.')
  } catch {
    wrong.value = AWAY
  }
}
</script>

<template>
  <section class="mt-6" aria-label="Network">
    <h2 class="mb-2 text-lg">The shop’s network</h2>
    <template v-if="me.me?.asked">
      <p class="max-w-2xl">
        Tablets reach Miser over an encrypted line. Where Miser made the certificate itself, a tablet warns of it until it is told to trust
        it, once: download it here, install it in the tablet’s settings as an authority to be trusted, and compare the fingerprint shown
        there with the one that Miser printed when it started. It is believed for this shop’s names alone.
      </p>
      <a class="btn mt-2" href="/api/certificate" download>The shop’s certificate</a>
    </template>
    <p v-else class="max-w-2xl">
      Miser answers on this machine alone, without sign-in. With an owner it goes on the network:
      <code class="num">bin/miser serve --bind ADDRESS --host NAME</code>
    </p>
    <div class="mt-3">
      <label for="hosts" class="mb-1 block text-dim">Names it answers to, from the next start on</label>
      <input
        id="hosts"
        v-model="text"
        class="field w-96 max-w-full"
        placeholder="bench.lan"
        autocomplete="off"
        spellcheck="false"
        @change="save"
      />
      <p v-if="wrong" class="mt-1 text-brick" role="alert">{{ wrong }}</p>
    </div>
  </section>
</template>
