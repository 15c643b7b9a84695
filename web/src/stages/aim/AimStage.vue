<script setup lang="ts">
import { computed } from 'vue'
import { useJob } from '../../state/useJob'
import { useReference } from '../../state/useReference'
import { useStageView } from '../../state/useStageView'
import Caution from '../../ui/Caution.vue'
import EmptyBox from '../../ui/EmptyBox.vue'
import FailNote from '../../ui/FailNote.vue'
import FigureValue from '../../ui/FigureValue.vue'
import { plain } from '../../ui/format'
import PickField from '../../ui/PickField.vue'
import QuantityField from '../../ui/QuantityField.vue'
import YesNo from '../../ui/YesNo.vue'
import WallDrawing from './WallDrawing.vue'

const job = useJob()
const reference = useReference()
const { view: aim, failed } = useStageView('aim')
const entered = computed(() => job.document?.aim ?? {})
function print() {
  window.print()
}
</script>

<template>
  <div class="max-w-[1180px]">
    <div class="mb-3 flex flex-wrap items-center gap-3">
      <h2 class="mr-auto text-xl">
        Aim<span class="hidden print:inline">: {{ job.document?.name }}</span>
      </h2>
      <button type="button" class="btn no-print" :disabled="!aim?.ready" @click="print">Print the wall diagram</button>
    </div>
    <Caution of="aim_law" class="mb-3" />
    <FailNote :text="failed" />
    <div class="grid gap-6 min-[1000px]:grid-cols-[22rem_minmax(0,1fr)]">
      <div class="no-print grid content-start gap-3">
        <PickField at="/aim/school" label="Rule to aim by" :options="reference.tables?.aim_schools ?? []" fallback="regulation" />
        <div class="grid grid-cols-2 gap-3">
          <QuantityField at="/aim/distance_m" label="Distance to the wall" unit="m" :step="0.1" help="7.5 m or 25 ft" />
          <QuantityField at="/aim/lamp_height_m" label="Height of the lamp" unit="m" small :step="5" />
          <QuantityField at="/aim/now_drop_m" label="Drop as it is now" unit="m" small :step="5" help="above the lamp: minus" />
        </div>
        <YesNo at="/aim/aboard" label="Rider aboard while aiming" :fallback="true" />
        <h3 class="mt-2 font-semibold">Rider and luggage tip it</h3>
        <div class="grid grid-cols-3 gap-3">
          <QuantityField at="/aim/rear_sag_m" label="Rear sag" unit="m" small :step="1" />
          <QuantityField at="/aim/front_sag_m" label="Front sag" unit="m" small :step="1" />
          <QuantityField at="/aim/wheelbase_m" label="Wheelbase" unit="m" small :step="10" />
        </div>
        <h3 class="mt-2 font-semibold">Adjuster</h3>
        <div class="grid grid-cols-2 gap-3">
          <QuantityField at="/aim/lever_m" label="Lever, pivot to screw" unit="m" small :step="1" />
          <QuantityField at="/aim/thread_pitch_m" label="Travel a turn" unit="m" small :step="0.1" />
          <QuantityField
            at="/aim/thread_m"
            label="Exposed thread, as found"
            unit="m"
            small
            :step="0.5"
            help="before a ball joint is popped"
          />
          <QuantityField at="/aim/thread_again_m" label="Again, in the other unit" unit="m" small :step="0.5" help="3/8 in works" />
          <QuantityField at="/aim/thread_now_m" label="Exposed thread, now" unit="m" small :step="0.5" help="after refitting" />
        </div>
        <p v-for="s in aim?.thread_slips" :key="s" class="font-semibold text-brick" role="alert">{{ s }}</p>
      </div>
      <div class="min-w-0">
        <EmptyBox v-if="aim && !aim.ready"> Distance to the wall and height of the lamp, and the lines to tape are drawn here. </EmptyBox>
        <template v-else-if="aim">
          <WallDrawing
            :aim="aim"
            :lamp-height="entered.lamp_height_m as number"
            :distance="entered.distance_m as number"
            :now="entered.now_drop_m"
          />
          <dl class="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 text-lg" data-testid="aim-figures">
            <dt class="text-dim">cut-off under the lamp, rider aboard</dt>
            <dd><FigureValue :figure="aim.drop" name="Drop at the wall" class="text-2xl font-bold" /></dd>
            <dt class="text-dim">over the floor</dt>
            <dd><FigureValue :figure="aim.height" name="Height of the cut-off" class="font-semibold" /></dd>
            <dt class="text-dim">rider and luggage lift the beam by</dt>
            <dd>
              <FigureValue :figure="aim.pitch" why name="Pitch" percent /><template v-if="aim.pitch_degrees !== null"
                >, <span class="num">{{ plain(aim.pitch_degrees, 1) }}</span>°</template
              >
            </dd>
            <dt class="text-dim">so with nobody aboard set it to</dt>
            <dd><FigureValue :figure="aim.drop_unladen" why name="Drop with nobody aboard" class="font-semibold" /></dd>
            <dt class="text-dim">as it is now</dt>
            <dd>
              <FigureValue :figure="aim.inclination" why name="Inclination now" percent />
              <span class="ml-3 font-semibold" :class="aim.verdict === 'within' ? 'text-moss' : 'text-brick'">{{ aim.verdict_words }}</span>
            </dd>
            <dt class="text-dim">turn the adjuster</dt>
            <dd>
              <FigureValue :figure="aim.turns" why name="Turns" class="font-semibold" />
              <template v-if="aim.turn_words"> {{ aim.turn_words }}</template>
            </dd>
            <dt class="text-dim">back to the thread as found</dt>
            <dd>
              <FigureValue :figure="aim.restore" why name="Turns back" />
              <template v-if="aim.restore_words"> {{ aim.restore_words }}</template>
            </dd>
          </dl>
          <p class="mt-2 text-sm text-dim">By {{ aim.source }}. Then a short night ride, and look again.</p>
          <YesNo at="/aim/set" label="Set, and looked at on the road" class="no-print mt-2" />
        </template>
      </div>
    </div>
  </div>
</template>
