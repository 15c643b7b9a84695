<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'

defineProps<{ open: boolean; title: string; wide?: boolean }>()
defineEmits<{ close: [] }>()
</script>

<template>
  <Dialog :open="open" class="relative z-50" @close="$emit('close')">
    <div class="fixed inset-0 bg-veil opacity-50" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto p-4">
      <DialogPanel class="mx-auto mt-[6vh] border-2 border-edge bg-paper p-5" :class="wide ? 'max-w-4xl' : 'max-w-xl'">
        <div class="mb-4 flex items-start justify-between gap-4">
          <DialogTitle class="text-xl font-bold">{{ title }}</DialogTitle>
          <button type="button" class="btn btn-bare -mt-2 -mr-2" aria-label="Close" @click="$emit('close')">✕</button>
        </div>
        <slot />
      </DialogPanel>
    </div>
  </Dialog>
</template>
