<script setup lang="ts">
import { useJob } from '../state/useJob'

const job = useJob()
</script>

<template>
  <div v-if="job.aside.length > 0" class="no-print border-b border-line bg-shade px-5 py-2">
    <span class="font-semibold">Put aside, not in the job:</span>
    <span v-for="(e, i) in job.aside" :key="i" class="num ml-3">{{ e.at }} = {{ JSON.stringify(e.value ?? e.op) }}</span>
    <button type="button" class="btn btn-bare" @click="job.aside = []">drop them</button>
  </div>
</template>
