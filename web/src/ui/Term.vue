<script setup lang="ts">
import { computed } from 'vue'
import { useReference } from '../state/useReference'

const props = defineProps<{ of: string }>()
const reference = useReference()
const meaning = computed(() => reference.tables?.terms[props.of])
</script>

<template>
  <abbr
    :title="meaning"
    class="cursor-help decoration-edge decoration-dotted underline-offset-4"
    :class="meaning ? 'underline' : 'no-underline'"
    ><slot>{{ of }}</slot></abbr
  >
</template>
