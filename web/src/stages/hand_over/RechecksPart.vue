<script setup lang="ts">
import { ref } from 'vue'
import StandingMark from '../../book/StandingMark.vue'
import { freshId, type Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'

/** When the machine is to be looked at again: proposed by what was fitted, moved, dropped, added to. */
const props = defineProps<{ rechecks: Schemas['Recheck'][]; handed: boolean; words: string | null }>()
const job = useJob()
const what = ref('')
const on = ref('')

/** A row says all that it says; what it does not say is as proposed. */
function put(look: Schemas['Recheck'], said: Record<string, unknown>) {
  const row = job.document?.rechecks?.find((r) => r.id === look.id)
  job.edit([{ op: 'put', at: '/rechecks', value: { ...row, id: look.id, ...said } }])
}
function move(look: Schemas['Recheck'], event: Event) {
  const day = (event.target as HTMLInputElement).value
  if (day) put(look, { due_on: day })
}
function add() {
  if (!what.value.trim() || !on.value) return
  job.edit([{ op: 'add', at: '/rechecks', value: { id: freshId(), what: what.value.trim(), due_on: on.value } }])
  what.value = ''
}
/** Whether the day can still be moved here. */
const open = (look: Schemas['Recheck']) => !look.done_on && !look.dropped && (!props.handed || look.kept)
</script>

<template>
  <details data-testid="rechecks" :open="handed">
    <summary class="flex min-h-11 cursor-pointer flex-wrap items-baseline gap-x-3 py-1">
      <h3 class="text-lg font-bold">To be looked at again</h3>
      <span class="text-dim">{{ words ?? 'nothing that was fitted asks for it' }}</span>
      <span v-if="!handed" class="ml-auto underline underline-offset-4">move, drop, add</span>
    </summary>
    <p class="text-dim">
      By what was fitted. It stands on the board when it is due<template v-if="!handed">, from the day the machine goes out</template>.
    </p>
    <ul>
      <li v-for="r in rechecks" :key="r.id" class="flex flex-wrap items-center gap-3 border-b border-line py-2" data-testid="recheck-row">
        <span class="min-w-52 flex-1" :class="r.dropped ? 'text-dim line-through' : ''">
          {{ r.what
          }}<span class="block text-sm text-dim"
            >{{ r.why }}<template v-if="r.every_days"> Every {{ r.every_days }} days.</template></span
          >
        </span>
        <input
          v-if="open(r)"
          type="date"
          class="field w-44"
          :value="r.due_on ?? ''"
          :aria-label="`Due: ${r.what}`"
          @change="move(r, $event)"
        />
        <StandingMark v-if="handed && !r.dropped" :standing="r.standing" :words="r.words" />
        <RouterLink v-if="handed && r.kept && !r.dropped" class="btn" :to="{ name: 'recheck', params: { id: job.id, recheck: r.id } }">{{
          r.done_on ? 'see' : 'look again'
        }}</RouterLink>
        <button v-if="!r.done_on" type="button" class="btn btn-bare" @click="put(r, { dropped: !r.dropped })">
          {{ r.dropped ? 'wanted after all' : 'not wanted' }}
        </button>
      </li>
      <li v-if="rechecks.length === 0" class="py-2 text-dim">Nothing that was fitted asks for it.</li>
    </ul>
    <form class="mt-2 flex flex-wrap items-end gap-3" @submit.prevent="add">
      <label class="min-w-52 flex-1"
        ><span class="mb-1 block text-dim">Something else to look at</span><input v-model="what" class="field" maxlength="200"
      /></label>
      <label><span class="mb-1 block text-dim">on</span><input v-model="on" type="date" class="field" /></label>
      <button type="submit" class="btn" :disabled="!what.trim() || !on">Add it</button>
    </form>
  </details>
</template>
