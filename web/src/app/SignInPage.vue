<script setup lang="ts">
import { computed, ref } from 'vue'
import { useMe } from '../state/useMe'

const me = useMe()
const tablet = computed(() => me.me?.tablet)
const way = ref<'pass' | 'code'>('pass')
const who = ref('')
const pin = ref('')
const name = ref('')
const passphrase = ref('')
const code = ref('')
const busy = ref(false)
const KEYS = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '⌫', '0', 'in']
document.title = 'Sign in · Miser'

const wrong = (at: string) => me.fields.find((f) => f.at === at)

async function doing(work: () => Promise<unknown>) {
  if (busy.value) return
  busy.value = true
  await work().finally(() => (busy.value = false))
}
function press(key: string) {
  if (key === '⌫') pin.value = pin.value.slice(0, -1)
  else if (key === 'in') void byPin()
  else pin.value += key
}
const byPin = () =>
  doing(async () => {
    await me.signInByPin(who.value, pin.value)
    pin.value = ''
  })
const byPass = () => doing(() => me.signIn(name.value, passphrase.value))
const byCode = () =>
  doing(async () => {
    if (!(await me.join(code.value, name.value.trim(), passphrase.value))) return
    way.value = 'pass'
    // Who had forgotten a passphrase was not asked for a name.
    if (name.value.trim()) await me.signIn(name.value, passphrase.value)
  })
function pick(other: string) {
  who.value = other
  pin.value = ''
  me.message = ''
}
</script>

<template>
  <div class="mx-auto max-w-2xl px-5 py-8">
    <h1 class="text-3xl">Who is working here?</h1>
    <main id="main" tabindex="-1" class="mt-6 outline-none">
      <section v-if="tablet && tablet.people.length > 0" class="mb-8">
        <h2 class="mb-2 text-lg">On this tablet ({{ tablet.name }})</h2>
        <div class="flex flex-wrap gap-2" role="group" aria-label="Name">
          <button
            v-for="p in tablet.people"
            :key="p"
            type="button"
            class="btn min-h-14 px-6 text-xl"
            :aria-pressed="who === p"
            @click="pick(p)"
          >
            {{ p }}
          </button>
        </div>
        <form v-if="who" class="mt-4 max-w-xs" @submit.prevent="byPin">
          <label for="pin" class="mb-1 block text-dim">{{ who }}’s PIN</label>
          <input id="pin" v-model="pin" type="password" inputmode="none" autocomplete="off" class="field num h-14 text-3xl" autofocus />
          <div class="mt-2 grid grid-cols-3 gap-2">
            <button
              v-for="k in KEYS"
              :key="k"
              type="button"
              class="btn num min-h-16 justify-center text-2xl"
              :class="k === 'in' ? 'btn-main' : ''"
              :aria-label="k === '⌫' ? 'Delete' : k === 'in' ? 'Sign in' : k"
              @click="press(k)"
            >
              {{ k }}
            </button>
          </div>
        </form>
      </section>
      <form class="max-w-md space-y-4" @submit.prevent="way === 'pass' ? byPass() : byCode()">
        <h2 class="text-lg">{{ way === 'code' ? 'With a code of the owner’s' : 'With a passphrase' }}</h2>
        <div v-if="way === 'code'">
          <label for="code" class="mb-1 block text-dim">Code</label>
          <input id="code" v-model="code" class="field num" autocomplete="off" autocapitalize="characters" spellcheck="false" />
          <p v-if="wrong('/code')" class="mt-1 text-brick" role="alert">
            {{ wrong('/code')?.message }}. Accepted: {{ wrong('/code')?.accepts }}.
          </p>
        </div>
        <div>
          <label for="name" class="mb-1 block text-dim">{{
            way === 'code' ? 'Your name (not where you forgot a passphrase)' : 'Name'
          }}</label>
          <input id="name" v-model="name" class="field" autocomplete="username" />
          <p v-if="wrong('/name')" class="mt-1 text-brick" role="alert">
            {{ wrong('/name')?.message }}. Accepted: {{ wrong('/name')?.accepts }}.
          </p>
        </div>
        <div>
          <label for="passphrase" class="mb-1 block text-dim">{{
            way === 'code' ? 'A passphrase of your own, ten letters or more' : 'Passphrase'
          }}</label>
          <input
            id="passphrase"
            v-model="passphrase"
            type="password"
            class="field"
            :autocomplete="way === 'code' ? 'new-password' : 'current-password'"
          />
          <p v-if="wrong('/passphrase')" class="mt-1 text-brick" role="alert">
            {{ wrong('/passphrase')?.message }}. Accepted: {{ wrong('/passphrase')?.accepts }}.
          </p>
        </div>
        <div class="flex flex-wrap gap-3">
          <button class="btn btn-main px-8" :disabled="busy">{{ way === 'code' ? 'Come in' : 'Sign in' }}</button>
          <button type="button" class="btn btn-bare" @click="((way = way === 'code' ? 'pass' : 'code'), (me.message = ''))">
            {{ way === 'code' ? 'I have a passphrase' : 'I have a code' }}
          </button>
        </div>
      </form>
      <p v-if="me.message" class="mt-4 border-l-4 border-brick bg-brick-soft p-3" role="alert">{{ me.message }}</p>
      <p class="mt-8 text-sm text-dim">
        No code yet? The owner makes one under Shop. What was typed on this browser and not saved is still here.
      </p>
    </main>
  </div>
</template>
