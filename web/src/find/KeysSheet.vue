<script setup lang="ts">
import Sheet from '../ui/Sheet.vue'

defineProps<{ open: boolean }>()
defineEmits<{ close: [] }>()
const KEYS = [
  ['/', 'find a machine, load, part, stage or command'],
  ['1 … 5', 'go to look, decide, buy, do, hand over; again: the next stage there'],
  ['← →', 'the stage before, the stage after'],
  ['N', 'the next step'],
  ['R', 'take a reading'],
  ['A  R', 'accept or repeat what the meter took'],
  ['Space', 'tap a flash, on Signals'],
  ['H', 'what was changed, when, by whom'],
  ['B', 'before or after, on the rail'],
  ['T', 'light or dark'],
  ['Ctrl Z', 'undo'],
  ['Ctrl Shift Z', 'redo'],
  ['↑ ↓', 'nudge the figure in a field'],
  ['Esc', 'close what is open'],
]
</script>

<template>
  <Sheet :open="open" title="Keys" @close="$emit('close')">
    <dl class="grid grid-cols-[auto_1fr] gap-x-5 gap-y-3">
      <template v-for="[key, text] in KEYS" :key="key">
        <dt>
          <span class="kbd">{{ key }}</span>
        </dt>
        <dd>{{ text }}</dd>
      </template>
    </dl>
  </Sheet>
</template>
