<script setup lang="ts">
import { Dialog, DialogPanel, DialogTitle } from '@headlessui/vue'
import { useOverlay } from './overlays'

const props = defineProps<{ open: boolean; title: string; wide?: boolean }>()
defineEmits<{ close: [] }>()
const overlay = useOverlay(() => props.open)
</script>

<template>
  <Dialog :open="open" class="relative" :style="{ zIndex: 50 + Math.max(0, overlay.level()) }" @close="$emit('close')">
    <div class="fixed inset-0 bg-veil opacity-50" aria-hidden="true" />
    <div class="fixed inset-0 overflow-y-auto p-4">
      <DialogPanel class="relative mx-auto mt-[6vh] border-2 border-edge bg-paper p-5" :class="wide ? 'max-w-4xl' : 'max-w-xl'">
        <DialogTitle class="mb-4 pr-12 text-xl font-bold">{{ title }}</DialogTitle>
        <slot />
        <button type="button" class="btn btn-bare absolute top-2 right-2" aria-label="Close" @click="$emit('close')">✕</button>
      </DialogPanel>
    </div>
  </Dialog>
</template>
