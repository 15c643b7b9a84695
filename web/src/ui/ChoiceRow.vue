<script setup lang="ts" generic="K extends string | number">
import { RadioGroup, RadioGroupOption } from '@headlessui/vue'

/** One of a few, side by side; arrow keys go from one to the next. */
const props = defineProps<{
  label: string
  options: readonly { key: K; label: string }[]
  value?: K
  stretch?: boolean
  /** Touched again, what is chosen is taken back. */
  optional?: boolean
}>()
const emit = defineEmits<{ pick: [key: K] }>()

function again(key: K) {
  if (props.optional && props.value === key) emit('pick', key)
}
</script>

<template>
  <RadioGroup
    :model-value="(value ?? null) as K"
    :aria-label="label"
    class="flex flex-wrap"
    @update:model-value="(key: K) => key !== value && $emit('pick', key)"
  >
    <RadioGroupOption
      v-for="o in options"
      :key="o.key"
      as="button"
      type="button"
      class="btn -ml-px"
      :class="stretch ? 'flex-1 justify-center px-2' : ''"
      :value="o.key"
      @click="again(o.key)"
    >
      {{ o.label }}
    </RadioGroupOption>
  </RadioGroup>
</template>
