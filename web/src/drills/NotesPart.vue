<script setup lang="ts">
import { useLocalStorage } from '@vueuse/core'
import { ref } from 'vue'
import type { useDrill } from './useDrill'

/** Somebody who knows, giving up, and notes of one’s own. */
const props = defineProps<{ id: string; drill: ReturnType<typeof useDrill>; hint: string }>()
const notes = useLocalStorage(() => `miser-drill-${props.id}`, '')
const sure = ref(false)
function giveUp() {
  if (sure.value) void props.drill.act({ act: 'give_up' })
  sure.value = !sure.value
}
</script>

<template>
  <div>
    <div class="mb-2 flex flex-wrap gap-1">
      <button type="button" class="btn" :disabled="drill.busy.value" @click="drill.act({ act: 'hint' })">
        Ask somebody who knows · {{ hint }}
      </button>
      <button type="button" class="btn" :disabled="drill.busy.value" @click="giveUp" @blur="sure = false">
        {{ sure ? 'Give up: show me what it was' : 'Give up' }}
      </button>
    </div>
    <label class="block"
      ><span class="sr-only">Notes</span
      ><textarea v-model="notes" rows="2" class="field" placeholder="notes of your own; nobody else sees them"></textarea>
    </label>
  </div>
</template>
