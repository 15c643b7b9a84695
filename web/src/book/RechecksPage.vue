<script setup lang="ts">
import { computed, ref } from 'vue'
import { api, type Schemas } from '../api/client'
import { useFetched } from '../state/useFetched'
import { useMe } from '../state/useMe'
import EmptyBox from '../ui/EmptyBox.vue'
import FailNote from '../ui/FailNote.vue'
import StandingMark from './StandingMark.vue'

/** What falls due, the earliest first; as a file, and as a feed that a calendar follows. */
document.title = 'Rechecks · Miser'
const me = useMe()
const { data, failed } = useFetched(
  () => 0,
  () => api.GET('/api/rechecks'),
)
const word = ref('')
const shown = computed(() => {
  const words = word.value.toLowerCase().split(/\s+/).filter(Boolean)
  return (data.value?.rechecks ?? []).filter((r) => words.every((w) => [r.machine, r.owner, r.what].join(' ').toLowerCase().includes(w)))
})
const address = ref<Schemas['CalendarAddress'] | null>(null)
const told = ref('')
async function ask(call: () => Promise<{ data?: Schemas['CalendarAddress']; error?: { message: string } }>) {
  const answer = await call()
  if (answer.data) address.value = answer.data
  told.value = answer.error?.message ?? ''
}
if (me.mayOwn) void ask(() => api.GET('/api/calendar'))
const whole = computed(() => (address.value?.path ? new URL(address.value.path, window.location.href).href : ''))
async function copy() {
  await navigator.clipboard?.writeText(whole.value)
  told.value = 'Copied.'
}
</script>

<template>
  <main id="main" tabindex="-1" class="mx-auto max-w-[1180px] px-5 pb-12 outline-none">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ bay board</RouterLink>
      <h1 class="mr-auto text-2xl">Rechecks</h1>
      <a class="btn" href="/api/rechecks.ics" download>Calendar file</a>
    </header>
    <FailNote v-if="failed" :text="failed" class="mt-3" />
    <p v-if="!data && !failed" class="p-4 text-dim" role="status">Looking through the book …</p>
    <template v-if="data">
      <p v-if="data.rechecks.length" class="my-3 flex flex-wrap gap-x-6">
        <span :class="data.overdue ? 'font-semibold text-brick' : 'text-dim'">{{ data.overdue }} overdue</span>
        <span :class="data.due ? 'font-semibold text-brass' : 'text-dim'">{{ data.due }} today</span>
        <span class="text-dim">{{ data.soon }} within a fortnight</span>
        <label class="ml-auto"
          ><span class="sr-only">Show only</span><input v-model="word" class="field w-56" placeholder="show only …"
        /></label>
      </p>
      <EmptyBox v-if="data.rechecks.length === 0" class="mt-4">
        Nothing falls due. What was fitted to a machine says when it is to be looked at again, once it is handed over.
      </EmptyBox>
      <ul>
        <li v-for="r in shown" :key="r.job + r.id" class="border-b border-line" data-testid="due">
          <RouterLink
            class="grid min-h-14 grid-cols-[7rem_13rem_1fr_auto] items-center gap-x-4 py-1 hover:bg-shade max-[760px]:grid-cols-[7rem_1fr]"
            :to="{ name: 'recheck', params: { id: r.job, recheck: r.id } }"
          >
            <span class="num">{{ r.due_on ?? 'no day' }}</span>
            <span class="font-semibold"
              >{{ r.machine }}<span v-if="r.owner" class="block text-sm font-normal text-dim">{{ r.owner }}</span></span
            >
            <span class="max-[760px]:col-span-2"
              >{{ r.what }}<span class="block text-sm text-dim">{{ r.why }}</span></span
            >
            <StandingMark :standing="r.standing" :words="r.words" />
          </RouterLink>
        </li>
      </ul>
      <section v-if="me.mayOwn" class="mt-8 max-w-3xl" aria-labelledby="feed-head">
        <h2 id="feed-head" class="mb-1 text-xl">A feed for your calendar</h2>
        <p class="text-dim">
          A calendar that follows this address shows what falls due, and nothing of whose the machine is. Whoever has the address may read
          it; a new one withdraws the one before.
        </p>
        <p v-if="whole" class="num my-2 border-l-4 border-edge bg-shade p-3 break-all" data-testid="feed">{{ whole }}</p>
        <p class="flex flex-wrap gap-2">
          <button v-if="whole" type="button" class="btn" @click="copy">Copy it</button>
          <button type="button" class="btn" @click="ask(() => api.POST('/api/calendar'))">
            {{ whole ? 'Make another' : 'Make an address' }}
          </button>
          <button v-if="whole" type="button" class="btn btn-bare" @click="ask(() => api.DELETE('/api/calendar'))">Withdraw it</button>
          <span v-if="told" class="self-center text-dim" role="status">{{ told }}</span>
        </p>
      </section>
    </template>
  </main>
</template>
