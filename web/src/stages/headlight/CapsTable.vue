<script setup lang="ts">
import { computed } from 'vue'
import { useReference } from '../../state/useReference'
import { useUnits } from '../../state/useUnits'
import { plain } from '../../ui/format'

/** What each cap fixes, and where its figures come from. */
const reference = useReference()
const units = useUnits()
const rows = computed(() =>
  (reference.tables?.caps ?? []).map((c) => ({
    ...c,
    watts: c.filaments.map((f) => (f.watts == null ? '?' : plain(f.watts, 0))).join(' / '),
    most: c.filaments.some((f) => f.test_max_w != null)
      ? c.filaments.map((f) => (f.test_max_w == null ? '?' : plain(f.test_max_w, 1))).join(' / ')
      : '–',
    lumens: c.filaments.map((f) => (f.lumens == null ? '?' : plain(f.lumens, 0))).join(' / '),
    volts: [...new Set(c.filaments.map((f) => f.test_v))].map((v) => (v == null ? '?' : plain(v, 1))).join(' / '),
    plane: c.plane_to_filament_m === null ? '–' : units.small(c.plane_to_filament_m),
  })),
)
</script>

<template>
  <details data-testid="caps">
    <summary class="min-h-11 cursor-pointer py-2 font-semibold">Lamp caps and unit sizes</summary>
    <div class="overflow-x-auto">
      <table class="sheet w-full text-sm">
        <thead>
          <tr>
            <th>cap</th>
            <th>for</th>
            <th class="r">watts</th>
            <th class="r">at most</th>
            <th class="r">lumens</th>
            <th class="r">at volts</th>
            <th class="r">plane to filament</th>
            <th>contacts</th>
            <th>trade number</th>
            <th>from</th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="r in rows" :key="r.key">
            <td class="font-semibold whitespace-nowrap">{{ r.key }}</td>
            <td>{{ r.use }}</td>
            <td class="r num whitespace-nowrap">{{ r.watts }}</td>
            <td class="r num whitespace-nowrap">{{ r.most }}</td>
            <td class="r num whitespace-nowrap">{{ r.lumens }}</td>
            <td class="r num">{{ r.volts }}</td>
            <td class="r num whitespace-nowrap">{{ r.plane }}</td>
            <td>{{ r.contacts }}</td>
            <td class="num">{{ r.trade ?? '–' }}</td>
            <td>{{ r.sources.join('; ') }}</td>
          </tr>
          <tr v-for="s in reference.tables?.unit_sizes ?? []" :key="s.key">
            <td class="font-semibold whitespace-nowrap">{{ s.label }}</td>
            <td colspan="8">whole unit, {{ units.small(s.diameter_m) }} across</td>
            <td>{{ s.source }}</td>
          </tr>
        </tbody>
      </table>
    </div>
  </details>
</template>
