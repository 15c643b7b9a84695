<script setup lang="ts">
import { useReference } from '../state/useReference'
import PickField from '../ui/PickField.vue'
import QuantityField from '../ui/QuantityField.vue'

/** What is printed on the box and what lies in it. */
defineProps<{ at: string }>()
const reference = useReference()
</script>

<template>
  <div class="grid gap-3 sm:grid-cols-3">
    <QuantityField :at="`${at}/watts`" label="Advertised watts" unit="W" :step="1" />
    <QuantityField :at="`${at}/lumens`" label="Advertised lumens" unit="lm" :step="100" />
    <QuantityField :at="`${at}/fuse_a`" label="Fuse it came with" unit="A" :step="1" />
    <QuantityField :at="`${at}/wire_mm2`" label="Wire it came with" unit="mm²" help="16 awg works too" />
    <PickField :at="`${at}/connector`" label="Connector" :options="reference.tables?.connectors ?? []" none="not known" />
  </div>
</template>
