<script setup lang="ts">
import { computed } from 'vue'
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import { usePhotometryFile } from '../../state/usePhotometryFile'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import ToneNote from '../../ui/ToneNote.vue'
import PickField from '../../ui/PickField.vue'
import { plain } from '../../ui/format'
import QuantityField from '../../ui/QuantityField.vue'
import { luxText } from './frame'
import WallFigureList from './WallFigureList.vue'
import WallMap from './WallMap.vue'

/** What a photometry file foretells: on a wall as far, as high, as far down as asked, beside what was read. */
const props = defineProps<{ predicted: Schemas['PredictedBeam'] | null; measured?: Schemas['WallView'] }>()
const job = useJob()
const { take, failed } = usePhotometryFile()
const files = computed(() => (job.document?.beam?.photometry ?? []).map((f) => ({ key: f.id, label: f.name })))
const comparable = computed(() => props.predicted?.beside && props.measured?.figures)
</script>

<template>
  <section class="mt-6" aria-labelledby="photometry-head">
    <h3 id="photometry-head" class="mb-2 text-lg">What a photometry file foretells</h3>
    <FailNote :text="failed" />
    <div class="grid gap-3 sm:grid-cols-4">
      <div class="sm:col-span-2">
        <label class="mb-1 block text-dim" for="ies-file">Add a file: IES LM-63, 1995 or 2002</label>
        <input id="ies-file" type="file" accept=".ies,.txt" class="field py-2" @change="take" />
      </div>
      <PickField v-if="files.length" class="sm:col-span-2" at="/beam/predicted/file" label="File" :options="files" none="none" />
      <template v-if="predicted">
        <QuantityField
          at="/beam/predicted/distance_m"
          label="Distance to the wall"
          unit="m"
          :step="0.5"
          :placeholder="plain(predicted.distance_m, 1)"
        />
        <QuantityField
          at="/beam/predicted/height_m"
          label="Height of the lamp"
          unit="m"
          small
          :step="10"
          :placeholder="predicted.floor_m === null ? '' : String(Math.round(-predicted.floor_m * 1000))"
        />
        <QuantityField
          at="/beam/predicted/down"
          label="Aimed down, as a share"
          unit=""
          :step="0.005"
          help="1 % works"
          :placeholder="plain(predicted.down, 3)"
        />
      </template>
    </div>
    <div v-if="predicted" class="mt-3 grid gap-4 min-[1000px]:grid-cols-2" data-testid="predicted">
      <div>
        <EmptyBox v-if="predicted.wall.reason">{{ predicted.wall.reason }}</EmptyBox>
        <template v-else>
          <WallMap v-if="comparable" :wall="measured!" :over="predicted.wall.contours" :floor="predicted.floor_m" />
          <WallMap v-else :wall="predicted.wall" :floor="predicted.floor_m" />
          <p v-if="comparable" class="mt-1 text-dim">
            Filled: as read after the change. Dashed blue: as the file has it, at the same levels.
          </p>
        </template>
      </div>
      <div>
        <ToneNote v-if="predicted.beside" tone="doubt" class="mb-2 font-semibold">{{ predicted.beside }}</ToneNote>
        <p>
          {{ predicted.name }}: type {{ predicted.type }}, at most <span class="num">{{ plain(predicted.table_peak_cd, 0) }}</span> cd,
          <span class="num">{{ plain(predicted.table_lumens, 0) }}</span> lm in its table<template
            v-if="predicted.lumens && predicted.lumens > 0"
            >, <span class="num">{{ plain(predicted.lumens, 0) }}</span> lm of its lamp</template
          ><template v-if="predicted.watts"
            >, <span class="num">{{ plain(predicted.watts, 1) }}</span> W</template
          >.
        </p>
        <WallFigureList v-if="predicted.wall.figures" :figures="predicted.wall.figures" />
        <button
          type="button"
          class="btn mt-2"
          @click="
            job.edit([
              { op: 'remove', at: `/beam/photometry/${predicted.id}` },
              { op: 'unset', at: '/beam/predicted/file' },
            ])
          "
        >
          Remove this file
        </button>
      </div>
    </div>
    <details v-if="predicted" class="mt-2" data-testid="candela">
      <summary class="min-h-11 cursor-pointer py-2 font-semibold">Candela by angle</summary>
      <p
        v-if="predicted.table.verticals.length < predicted.table.rows || predicted.table.horizontals.length < predicted.table.columns"
        class="text-dim"
      >
        The file has {{ predicted.table.rows }} by {{ predicted.table.columns }} angles; evenly thinned here.
      </p>
      <div class="max-h-96 overflow-auto" tabindex="0" role="region" aria-label="Candela by angle">
        <table class="sheet num text-sm">
          <thead>
            <tr>
              <th class="r">°</th>
              <th v-for="h in predicted.table.horizontals" :key="h" class="r">{{ Number(h.toFixed(1)) }}</th>
            </tr>
          </thead>
          <tbody>
            <tr v-for="(v, j) in predicted.table.verticals" :key="v">
              <th class="r">{{ Number(v.toFixed(1)) }}</th>
              <td v-for="(h, i) in predicted.table.horizontals" :key="h" class="r">{{ luxText(predicted.table.candela[j][i]) }}</td>
            </tr>
          </tbody>
        </table>
      </div>
    </details>
  </section>
</template>
