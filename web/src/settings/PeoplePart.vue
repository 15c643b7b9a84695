<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'
import { api, type Schemas } from '../api/client'
import { useMe } from '../state/useMe'

const me = useMe()
const all = shallowRef<Schemas['People'] | null>(null)
const code = ref<{ code: string; ends_at: string; whose: string } | null>(null)
const role = ref<Schemas['Role']>('technician')
const first = ref({ name: '', passphrase: '' })
const tablet = ref('')
const leaving = ref<number | null>(null)

type Answer = { data?: Schemas['People']; error?: Schemas['Refusal'] }
async function doing(call: () => Promise<Answer>) {
  const data = await me.ask(call)
  if (data) all.value = data
  return data !== undefined
}
onMounted(() => doing(() => api.GET('/api/people')))

/** One's own role may be among them. */
async function give(id: number, next: string) {
  await doing(() => api.PATCH('/api/people/{id}', { ...path(id), body: { role: next as Schemas['Role'] } }))
  const message = me.message
  await me.fetchMe()
  me.message = message
}
async function makeOwner() {
  if (await doing(() => api.POST('/api/people/owner', { body: first.value }))) await me.fetchMe()
}
async function invite(as: Schemas['Role'], person?: number, whose = '') {
  const data = await me.ask(() => api.POST('/api/people/invites', { body: { role: as, person } }))
  if (!data) return
  code.value = { ...data, whose }
  const message = me.message
  await doing(() => api.GET('/api/people'))
  me.message = message
}
const path = (id: number) => ({ params: { path: { id } } })
async function know() {
  if (!(await doing(() => api.POST('/api/tablets', { body: { name: tablet.value } })))) return
  tablet.value = ''
  await me.fetchMe()
}
const label = (key: string) => all.value?.roles.find((r) => r.key === key)?.label ?? key
const wrong = (at: string) => me.fields.find((f) => f.at === at)
const day = (iso: string) => new Date(iso).toLocaleString()
</script>

<template>
  <section class="mt-6" aria-label="People">
    <h2 class="mb-2 text-lg">People</h2>
    <p v-if="!me.me?.owner" class="mb-3 max-w-2xl">
      On this machine alone nobody signs in. To let tablets in the bays work with it, the shop needs an owner first.
    </p>
    <form v-if="me.me && !me.me.owner" class="flex flex-wrap items-start gap-3" @submit.prevent="makeOwner">
      <div>
        <label for="owner-name" class="mb-1 block text-dim">Owner’s name</label>
        <input id="owner-name" v-model="first.name" class="field w-56" autocomplete="off" />
        <p v-if="wrong('/name')" class="mt-1 max-w-56 text-brick" role="alert">
          {{ wrong('/name')?.message }}. Accepted: {{ wrong('/name')?.accepts }}.
        </p>
      </div>
      <div>
        <label for="owner-pass" class="mb-1 block text-dim">Passphrase</label>
        <input id="owner-pass" v-model="first.passphrase" type="password" class="field w-72" autocomplete="new-password" />
        <p v-if="wrong('/passphrase')" class="mt-1 max-w-72 text-brick" role="alert">
          {{ wrong('/passphrase')?.message }}. Accepted: {{ wrong('/passphrase')?.accepts }}.
        </p>
      </div>
      <button class="btn btn-main mt-7">Make the owner</button>
    </form>
    <template v-else-if="all">
      <ul>
        <li v-for="p in all.people" :key="p.id" class="flex flex-wrap items-center gap-3 border-b border-line py-2" data-testid="person">
          <span class="min-w-24 flex-1 font-semibold"
            >{{ p.name }}<span v-if="p.id === me.me?.person?.id" class="font-normal text-dim"> (you)</span></span
          >
          <label class="sr-only" :for="`role-${p.id}`">Role of {{ p.name }}</label>
          <select :id="`role-${p.id}`" class="field w-44" :value="p.role" @change="give(p.id, ($event.target as HTMLSelectElement).value)">
            <option v-for="r in all.roles" :key="r.key" :value="r.key">{{ r.label }}</option>
          </select>
          <button type="button" class="btn" @click="doing(() => api.POST('/api/people/{id}/sign-out', path(p.id)))">
            Sign out everywhere
          </button>
          <button type="button" class="btn" @click="invite(p.role, p.id, p.name)">Forgot the passphrase</button>
          <button type="button" class="btn btn-bare" :aria-label="`${p.name} leaves`" @click="leaving = p.id">✕</button>
          <p v-if="leaving === p.id" class="flex w-full items-center gap-3 bg-shade px-3 py-1" role="alert">
            {{ p.name }} can’t sign in any more; what they did keeps their name.
            <button
              type="button"
              class="btn"
              @click="doing(() => api.DELETE('/api/people/{id}', path(p.id))).finally(() => (leaving = null))"
            >
              {{ p.name }} leaves
            </button>
            <button type="button" class="btn btn-bare" @click="leaving = null">Stays</button>
          </p>
        </li>
      </ul>
      <p v-if="code" class="mt-3 border-l-4 border-brass bg-brass-soft p-3" role="status" data-testid="code">
        {{ code.whose ? `For ${code.whose}` : 'For somebody new' }}: <b class="num text-2xl tracking-wider">{{ code.code }}</b><br />It is
        shown this once and lets one person in, until {{ day(code.ends_at) }}. They choose “I have a code”.
      </p>
      <div class="mt-3 flex flex-wrap items-end gap-3">
        <div class="min-w-0 max-w-full">
          <label for="new-role" class="mb-1 block text-dim">Somebody new, as</label>
          <select id="new-role" v-model="role" class="field w-[34rem] max-w-full">
            <option v-for="r in all.roles" :key="r.key" :value="r.key">{{ r.label }}: {{ r.means }}</option>
          </select>
        </div>
        <button type="button" class="btn" @click="invite(role)">Make a code</button>
      </div>
      <p v-for="i in all.invites" :key="i.id" class="flex flex-wrap items-center gap-3 border-b border-line py-1 text-sm text-dim">
        A code waits for {{ i.person ?? `a new ${label(i.role).toLowerCase()}` }}, until {{ day(i.ends_at) }}
        <button type="button" class="btn ml-auto" @click="doing(() => api.DELETE('/api/people/invites/{id}', path(i.id)))">
          Take it back
        </button>
      </p>
      <h3 class="mt-5 mb-1 font-semibold">Tablets that take a PIN</h3>
      <p v-if="!me.me?.asked" class="text-dim">A PIN is for tablets, where Miser is on the shop’s network.</p>
      <p v-for="t in all.tablets" :key="t.id" class="flex items-center gap-3 border-b border-line py-1">
        {{ t.name }} <span class="text-sm text-dim">since {{ day(t.made_at) }}</span>
        <button
          type="button"
          class="btn ml-auto"
          :aria-label="`Forget ${t.name}`"
          @click="doing(() => api.DELETE('/api/tablets/{id}', path(t.id)))"
        >
          Forget it
        </button>
      </p>
      <form v-if="me.me?.asked && !me.me.tablet" class="mt-2 flex flex-wrap items-end gap-3" @submit.prevent="know">
        <div>
          <label for="tablet-name" class="mb-1 block text-dim">This device is</label>
          <input id="tablet-name" v-model="tablet" class="field w-56" placeholder="tablet in bay 2" autocomplete="off" />
        </div>
        <button class="btn">Let it take PINs</button>
      </form>
    </template>
    <p v-if="me.message" class="mt-3 text-brick" role="alert">{{ me.message }}</p>
  </section>
</template>
