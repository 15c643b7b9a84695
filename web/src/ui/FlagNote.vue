<script setup lang="ts">
import type { Schemas } from '../api/client'

defineProps<{ flag: Schemas['Flag'] }>()
const WORDS = { danger: 'Danger', warning: 'Warning', note: 'Note' }
</script>

<template>
  <div
    class="border-l-4 px-3 py-2"
    :class="flag.level === 'note' ? 'border-edge bg-shade' : 'border-brick bg-brick-soft'"
    :role="flag.level === 'danger' ? 'alert' : 'note'"
  >
    <span class="font-semibold" :class="flag.level === 'note' ? '' : 'text-brick'">{{ WORDS[flag.level] }}.</span> {{ flag.text }}
    <span v-if="flag.cure" class="block">{{ flag.cure }}</span>
  </div>
</template>
