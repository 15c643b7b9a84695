<script setup lang="ts">
import type { Schemas } from '../../api/client'
import { useJob } from '../../state/useJob'
import FigureValue from '../../ui/FigureValue.vue'
import { money, toneOf } from '../../ui/format'
import type { Found } from './points'

/** Plans side by side with the job as it stands. */
defineProps<{
  now: Schemas['PlanView']['now']
  cost: Schemas['PlanView']['cost']
  plans: { letter: string; plan: Found }[]
  taken: string | null
}>()
defineEmits<{ take: [plan: Found]; drop: [key: string]; quote: [keys: string[]] }>()
const job = useJob()
</script>

<template>
  <section aria-labelledby="compare-head" data-testid="compare">
    <div class="mb-2 flex flex-wrap items-center gap-3">
      <h3 id="compare-head" class="mr-auto text-lg">Side by side</h3>
      <button
        type="button"
        class="btn"
        :disabled="job.readonly"
        data-testid="make-quote"
        @click="
          $emit(
            'quote',
            plans.map((p) => p.plan.key),
          )
        "
      >
        Quote {{ plans.map((p) => p.letter).join(', ') }}
      </button>
    </div>
    <div class="overflow-x-auto">
      <table class="sheet w-full">
        <thead>
          <tr>
            <th><span class="sr-only">what</span></th>
            <th>A, as it stands</th>
            <th v-for="p in plans" :key="p.letter">{{ p.letter }}{{ p.plan.key === taken ? ', taken' : '' }}</th>
          </tr>
        </thead>
        <tbody>
          <tr>
            <th scope="row">money</th>
            <td>
              <span v-if="cost.missing.length" class="text-brick">at least </span><b class="num">{{ money(cost.cents) }}</b>
              <span v-for="m in cost.missing" :key="m" class="block text-sm text-brick">{{ m }}</span>
            </td>
            <td v-for="p in plans" :key="p.letter">
              <span v-if="p.plan.missing.length" class="text-brick">at least </span><b class="num">{{ money(p.plan.cents) }}</b>
              <span class="block text-sm text-dim"
                >parts {{ money(p.plan.parts_cents) }},
                {{ p.plan.work_cents === null ? 'work not counted: an hour has no price' : `work ${money(p.plan.work_cents)}` }}</span
              >
            </td>
          </tr>
          <tr>
            <th scope="row">time</th>
            <td>
              <span v-if="cost.missing_times.length" class="text-brick">at least </span><span class="num">{{ cost.minutes }}</span>
              <span class="unit">min</span>
            </td>
            <td v-for="p in plans" :key="p.letter">
              <span v-if="p.plan.missing_times.length" class="text-brick">at least </span><span class="num">{{ p.plan.minutes }}</span>
              <span class="unit">min</span>
            </td>
          </tr>
          <tr>
            <th scope="row">kept</th>
            <td>
              <span v-if="now.after" :class="toneOf(now.after.verdict)"
                ><FigureValue :figure="now.after.keeps" name="Kept as it stands" sigma
              /></span>
            </td>
            <td v-for="p in plans" :key="p.letter">
              <span :class="toneOf(p.plan.verdict)"><FigureValue :figure="p.plan.keeps" :name="`Kept with ${p.letter}`" sigma /></span>
            </td>
          </tr>
          <tr>
            <th scope="row">light, dipped</th>
            <td>
              <template v-if="cost.light">{{ cost.light.toFixed(1) }} × as it came in, as claimed</template
              ><span v-else class="text-dim">not known</span>
            </td>
            <td v-for="p in plans" :key="p.letter">
              <template v-if="p.plan.light">{{ p.plan.light.toFixed(1) }} × as it came in, as claimed</template
              ><span v-else class="text-dim">not known</span>
            </td>
          </tr>
          <tr>
            <th scope="row">cuts</th>
            <td>–</td>
            <td v-for="p in plans" :key="p.letter" class="num">{{ p.plan.cuts }}</td>
          </tr>
          <tr>
            <th scope="row">mind</th>
            <td>–</td>
            <td v-for="p in plans" :key="p.letter">
              <span v-for="n in [...p.plan.left_out, ...p.plan.notes]" :key="n" class="block text-sm">{{ n }}</span>
              <span v-for="m in p.plan.missing" :key="m" class="block text-sm text-brick">{{ m }}</span>
            </td>
          </tr>
          <tr>
            <th scope="row"><span class="sr-only">take</span></th>
            <td></td>
            <td v-for="p in plans" :key="p.letter">
              <div class="flex flex-wrap gap-2">
                <button type="button" class="btn btn-main" :disabled="job.readonly" :data-take="p.plan.key" @click="$emit('take', p.plan)">
                  Take {{ p.letter }}
                </button>
                <button type="button" class="btn btn-bare" @click="$emit('drop', p.plan.key)">put away</button>
              </div>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
  </section>
</template>
