<script setup lang="ts">
import { useDebounce } from '@vueuse/core'
import { computed, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { api, AWAY, type FieldError, type Reference, type Schemas } from '../api/client'
import { stageFor } from '../stages/registry'
import { useFetched } from '../state/useFetched'
import { useReference } from '../state/useReference'
import Sheet from '../ui/Sheet.vue'

defineProps<{ open: boolean }>()
const emit = defineEmits<{ close: [] }>()
const router = useRouter()
const reference = useReference()
const name = ref('')
const bay = ref('')
const system = ref<Reference['systems'][number]['key']>('battery_dc')
/** A kind of machine with what is usual of it; empty: none of them. */
const usual = ref('')
const model = ref('')
/** A machine of the book that comes in again. */
const known = shallowRef<Schemas['BookRow'] | null>(null)
const sought = useDebounce(name, 180)
const { data: found } = useFetched([sought, known], () =>
  sought.value.trim().length < 2 || known.value ? null : api.GET('/api/book', { params: { query: { q: sought.value.trim() } } }),
)
const offered = computed(() => (found.value?.machines ?? []).filter((m) => !m.gone_on).slice(0, 4))
function pick(machine: Schemas['BookRow']) {
  known.value = machine
  name.value = machine.name
}
const errors = ref<FieldError[]>([])
const busy = ref(false)
const failed = ref('')

async function make() {
  busy.value = true
  failed.value = ''
  errors.value = []
  try {
    const { data, error } = await api.POST('/api/jobs', {
      body: known.value
        ? { name: name.value.trim(), bay: bay.value.trim() || undefined, machine: known.value.id }
        : {
            name: name.value.trim(),
            bay: bay.value.trim() || undefined,
            model: model.value.trim() || undefined,
            system: system.value,
            usual: usual.value || undefined,
          },
    })
    if (data) {
      emit('close')
      name.value = ''
      bay.value = ''
      model.value = ''
      known.value = null
      await router.push({ name: stageFor('new machine'), params: { id: data.document.id } })
    } else {
      errors.value = error?.fields ?? []
      failed.value = errors.value.length ? '' : (error?.message ?? 'That did not work.')
    }
  } catch {
    failed.value = `${AWAY} What you typed stays here.`
  } finally {
    busy.value = false
  }
}
</script>

<template>
  <Sheet :open="open" title="New machine" @close="$emit('close')">
    <form class="flex flex-col gap-4" @submit.prevent="make">
      <div>
        <label class="mb-1 block text-dim" for="new-name">Machine</label>
        <input id="new-name" v-model="name" class="field" autocomplete="off" required maxlength="80" :disabled="!!known" />
        <p v-if="known" class="mt-2 flex flex-wrap items-center gap-3 border-l-4 border-edge bg-shade px-3 py-1" data-testid="known">
          <span class="min-w-0 flex-1">
            <span class="font-semibold">{{ known.name }}</span> of the book comes in again, as it went out: {{ known.jobs }}
            {{ known.jobs === 1 ? 'job' : 'jobs' }} on it.
            <RouterLink v-if="known.open" class="text-brass underline" :to="`/job/${known.open}`">It stands in the bay already.</RouterLink>
          </span>
          <button type="button" class="btn" @click="known = null">Another one</button>
        </p>
        <ul v-else-if="offered.length" class="mt-1" aria-label="Machines of the book">
          <li v-for="m in offered" :key="m.id">
            <button
              type="button"
              class="flex min-h-11 w-full items-center gap-3 border-b border-line px-2 text-left hover:bg-shade"
              data-testid="book-offer"
              @click="pick(m)"
            >
              <span class="font-semibold">{{ m.name }}</span>
              <span class="text-dim">{{ [m.model, m.owner].filter(Boolean).join(', ') }}</span>
              <span class="ml-auto text-sm text-dim">take it</span>
            </button>
          </li>
        </ul>
      </div>
      <div v-if="!known">
        <label class="mb-1 block text-dim" for="new-model">Model, by which the book knows its like</label>
        <input id="new-model" v-model="model" class="field" autocomplete="off" maxlength="80" />
      </div>
      <div>
        <label class="mb-1 block text-dim" for="new-bay">Bay</label>
        <input id="new-bay" v-model="bay" class="field" autocomplete="off" maxlength="40" />
      </div>
      <fieldset v-if="!known">
        <legend class="mb-1 text-dim">What is usual of it: lamps and engine’s own loads, to be looked over</legend>
        <div class="flex flex-wrap gap-1" role="group" aria-label="Kind of machine">
          <button
            v-for="m in reference.tables?.usual_machines"
            :key="m.key"
            type="button"
            class="btn"
            :aria-pressed="usual === m.key"
            @click="usual = usual === m.key ? '' : m.key"
          >
            {{ m.label }}
          </button>
        </div>
      </fieldset>
      <fieldset v-if="!usual && !known">
        <legend class="mb-1 text-dim">How its lamps are fed</legend>
        <label
          v-for="s in reference.tables?.systems"
          :key="s.key"
          class="flex min-h-11 cursor-pointer items-start gap-3 border-b border-line py-2"
        >
          <input v-model="system" type="radio" name="system" :value="s.key" class="mt-1 h-5 w-5 accent-brass" />
          <span
            ><span class="font-semibold">{{ s.label }}</span
            ><span class="block text-sm text-dim">{{ s.means }}</span></span
          >
        </label>
      </fieldset>
      <p v-for="e in errors" :key="e.at" class="text-brick" role="alert">{{ e.field }}: {{ e.message }}. Accepted: {{ e.accepts }}.</p>
      <p v-if="failed" class="text-brick" role="alert">{{ failed }}</p>
      <button type="submit" class="btn btn-main self-start" :disabled="busy || !name.trim()">Open a ticket</button>
    </form>
  </Sheet>
</template>
