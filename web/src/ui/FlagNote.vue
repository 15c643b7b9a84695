<script setup lang="ts">
import type { Schemas } from '../api/client'
import { useReference } from '../state/useReference'

defineProps<{ flag: Schemas['Flag'] }>()
const reference = useReference()
</script>

<template>
  <div
    class="border-l-4 px-3 py-2"
    :class="flag.serious ? 'border-brick bg-brick-soft' : 'border-edge bg-shade'"
    :role="flag.level === 'danger' ? 'alert' : 'note'"
  >
    <span class="font-semibold" :class="flag.serious ? 'text-brick' : ''">{{ reference.tables?.flag_levels[flag.level] }}.</span>
    {{ flag.text }}
    <span v-if="flag.cure" class="block">{{ flag.cure }}</span>
  </div>
</template>
