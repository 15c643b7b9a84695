<script setup lang="ts">
import { ref } from 'vue'
import { useMe } from '../state/useMe'

const me = useMe()
const passphrase = ref('')
const fresh = ref('')
const pin = ref('')
const said = ref('')

async function change(path: '/api/me/passphrase' | '/api/me/pin', body: { new_passphrase?: string; pin?: string }, done: string) {
  said.value = ''
  if (!(await me.prove(path, { passphrase: passphrase.value, ...body }))) return
  passphrase.value = fresh.value = pin.value = ''
  said.value = done
}
const wrong = (at: string) => me.fields.find((f) => f.at === at)
</script>

<template>
  <section v-if="me.me?.person" class="mt-6" aria-label="You">
    <h2 class="mb-2 text-lg">{{ me.me.person.name }}</h2>
    <div class="flex flex-wrap gap-3">
      <button type="button" class="btn" @click="me.signOut()">Sign out</button>
      <button type="button" class="btn" @click="me.signOut(true)">Sign out everywhere</button>
    </div>
    <details class="mt-2">
      <summary class="min-h-11 cursor-pointer py-2 text-dim">Passphrase and PIN</summary>
      <div class="grid max-w-2xl grid-cols-[repeat(auto-fit,minmax(15rem,1fr))] gap-4">
        <div>
          <label for="my-pass" class="mb-1 block text-dim">Your passphrase</label>
          <input id="my-pass" v-model="passphrase" type="password" class="field" autocomplete="current-password" />
          <p v-if="wrong('/passphrase')" class="mt-1 text-brick" role="alert">
            {{ wrong('/passphrase')?.message }}. Accepted: {{ wrong('/passphrase')?.accepts }}.
          </p>
        </div>
        <div>
          <label for="my-new" class="mb-1 block text-dim">A new one</label>
          <input id="my-new" v-model="fresh" type="password" class="field" autocomplete="new-password" />
          <button
            type="button"
            class="btn mt-2"
            :disabled="!fresh"
            @click="change('/api/me/passphrase', { new_passphrase: fresh }, 'The new passphrase counts from now on.')"
          >
            Change it
          </button>
        </div>
        <div>
          <label for="my-pin" class="mb-1 block text-dim">PIN for the shop’s tablets, 6 digits or more</label>
          <input id="my-pin" v-model="pin" type="password" inputmode="numeric" class="field num" autocomplete="off" />
          <p v-if="wrong('/pin')" class="mt-1 text-brick" role="alert">
            {{ wrong('/pin')?.message }}. Accepted: {{ wrong('/pin')?.accepts }}.
          </p>
          <button type="button" class="btn mt-2" :disabled="!pin" @click="change('/api/me/pin', { pin }, 'The PIN counts from now on.')">
            Set it
          </button>
          <button
            v-if="me.me.person.pin"
            type="button"
            class="btn mt-2 ml-2"
            @click="change('/api/me/pin', {}, 'There is no PIN any more.')"
          >
            No PIN
          </button>
        </div>
      </div>
      <p v-if="said" class="mt-2 text-moss" role="status">{{ said }}</p>
    </details>
  </section>
</template>
