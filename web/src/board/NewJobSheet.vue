<script setup lang="ts">
import { ref } from 'vue'
import { useRouter } from 'vue-router'
import { api, AWAY, type FieldError, type Reference } from '../api/client'
import { stageFor } from '../stages/registry'
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
const errors = ref<FieldError[]>([])
const busy = ref(false)
const failed = ref('')

async function make() {
  busy.value = true
  failed.value = ''
  errors.value = []
  try {
    const { data, error } = await api.POST('/api/jobs', {
      body: { name: name.value.trim(), bay: bay.value.trim() || undefined, system: system.value, usual: usual.value || undefined },
    })
    if (data) {
      emit('close')
      name.value = ''
      bay.value = ''
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
        <input id="new-name" v-model="name" class="field" autocomplete="off" required maxlength="80" />
      </div>
      <div>
        <label class="mb-1 block text-dim" for="new-bay">Bay</label>
        <input id="new-bay" v-model="bay" class="field" autocomplete="off" maxlength="40" />
      </div>
      <fieldset>
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
      <fieldset v-if="!usual">
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
