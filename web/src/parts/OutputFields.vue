<script setup lang="ts">
import { computed } from 'vue'
import { freshId, type Schemas } from '../api/client'
import { useEditor } from '../state/useEditor'
import PickField from '../ui/PickField.vue'
import QuantityField from '../ui/QuantityField.vue'
import TextField from '../ui/TextField.vue'

/** Outputs of a hub as its maker has them; none entered are the usual eight. */
const props = defineProps<{ at: string; outputs?: Schemas['job_box_output'][]; lines: readonly { key: string; label: string }[] }>()
const editor = useEditor()
const rows = computed(() => props.outputs ?? [])
const GROUPS = [
  { key: 'hot', label: 'always hot' },
  { key: 'switched', label: 'switched' },
  { key: 'lamp', label: 'lamp function' },
]
</script>

<template>
  <div data-testid="outputs">
    <div v-for="o in rows" :key="o.id" class="mb-2 grid items-end gap-3 sm:grid-cols-3 lg:grid-cols-6">
      <TextField :at="`${at}/${o.id}/label`" label="Output" />
      <PickField :at="`${at}/${o.id}/group`" label="Kind" :options="GROUPS" fallback="lamp" />
      <PickField :at="`${at}/${o.id}/sense`" label="It follows" :options="[...lines]" none="as is usual" />
      <QuantityField :at="`${at}/${o.id}/limit_a`" label="Limit" unit="A" :step="1" />
      <TextField :at="`${at}/${o.id}/colour`" label="Colour" />
      <button
        type="button"
        class="btn justify-self-start"
        :disabled="editor.readonly"
        @click="editor.edit([{ op: 'remove', at: `${at}/${o.id}` }])"
      >
        Take away
      </button>
    </div>
    <button
      type="button"
      class="btn"
      :disabled="editor.readonly"
      @click="editor.edit([{ op: 'add', at, value: { id: freshId(), label: 'Output' } }])"
    >
      {{ rows.length ? 'Another output' : 'Outputs other than the usual eight' }}
    </button>
  </div>
</template>
