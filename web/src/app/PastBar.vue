<script setup lang="ts">
import { useJob } from '../state/useJob'
import { useMe } from '../state/useMe'

const job = useJob()
const me = useMe()
</script>

<template>
  <p v-if="job.past" class="flex flex-wrap items-center gap-3 bg-brass-soft px-5 py-2" role="status" data-testid="past">
    <b>As it was on {{ job.past.words }}.</b> Nothing can be typed here.
    <button v-if="me.mayChange" type="button" class="btn no-print" @click="job.takeBack()">Make it so again</button>
    <button type="button" class="btn no-print" @click="job.lookBack(null)">To how it is now</button>
  </p>
</template>
