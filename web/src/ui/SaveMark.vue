<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../state/useJob'

const job = useJob()
const text = computed(
  () =>
    ({
      saved: job.elsewhere ? 'saved; changed elsewhere just now' : 'saved',
      saving: 'saving …',
      unsaved: 'not saved',
      fault: 'not saved: Miser made a mistake',
      offline: 'not saved: kept here, tried again',
      conflict: 'not saved: changed elsewhere',
    })[job.status],
)
const bad = computed(() => job.status !== 'saved' && job.status !== 'saving')
</script>

<template>
  <span
    class="flex items-center gap-2 text-sm"
    :class="bad ? 'font-semibold text-brick' : 'text-dim'"
    role="status"
    data-testid="save-mark"
    :title="job.message || undefined"
  >
    <svg width="12" height="12" aria-hidden="true">
      <rect width="12" height="12" :fill="bad ? 'none' : 'currentColor'" stroke="currentColor" stroke-width="3" /></svg
    >{{ text }}
  </span>
</template>
