import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, AWAY, type FieldError, type Schemas } from '../api/client'

/** Who works at this window, and what they may do. On the shop's own machine nobody is asked. */
export const useMe = defineStore('me', () => {
  const me = ref<Schemas['Me'] | null>(null)
  const message = ref('')
  const fields = ref<FieldError[]>([])
  const locked = computed(() => me.value !== null && me.value.asked && !me.value.person)
  /** Until it is known what somebody may, nothing is held back: the server sees to it. */
  const mayChange = computed(() => me.value?.may.change ?? true)
  const mayOwn = computed(() => me.value?.may.own ?? true)

  async function fetchMe() {
    const { data } = await api.GET('/api/me')
    if (!data) return
    const before = me.value?.person?.id
    me.value = data
    if (data.person && data.person.id !== before) window.dispatchEvent(new Event('miser:signed-in'))
  }
  window.addEventListener('miser:signed-out', () => void fetchMe().catch(() => undefined))

  /** Asks something of the server about people; says what was refused. */
  async function ask<T>(
    call: () => Promise<{ data?: T; error?: { message: string; kept?: string; fields?: FieldError[] } }>,
  ): Promise<T | undefined> {
    message.value = ''
    fields.value = []
    try {
      const { data, error } = await call()
      if (error) {
        fields.value = error.fields ?? []
        message.value = [error.message, fields.value.length === 0 && error.kept !== 'Nothing was changed.' ? error.kept : '']
          .filter(Boolean)
          .join(' ')
      }
      return data
    } catch {
      message.value = AWAY
      return undefined
    }
  }

  async function signIn(name: string, passphrase: string) {
    if (await ask(() => api.POST('/api/auth/sign-in', { body: { name, passphrase } }))) await fetchMe()
  }
  async function signInByPin(name: string, pin: string) {
    if (await ask(() => api.POST('/api/pin/sign-in', { body: { name, pin } }))) await fetchMe()
  }
  async function join(code: string, name: string, passphrase: string) {
    return (await ask(() => api.POST('/api/people/join', { body: { code, name: name || undefined, passphrase } }))) !== undefined
  }
  async function signOut(everywhere = false) {
    window.dispatchEvent(new Event('miser:leaving'))
    if (everywhere) await ask(() => api.POST('/api/me/sign-out'))
    await ask(() => api.POST('/api/auth/sign-out', { body: {} }))
    await fetchMe()
  }
  async function prove(path: '/api/me/passphrase' | '/api/me/pin', body: { passphrase: string; new_passphrase?: string; pin?: string }) {
    const data = await ask(() => api.POST(path, { body: body as never }))
    if (data) me.value = data
    return data !== undefined
  }

  return { me, message, fields, locked, mayChange, mayOwn, fetchMe, ask, signIn, signInByPin, join, signOut, prove }
})
