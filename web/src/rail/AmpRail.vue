<script setup lang="ts">
import { useElementSize } from '@vueuse/core'
import { scaleLinear } from 'd3-scale'
import { computed, ref, watchEffect } from 'vue'
import FigureValue from '../ui/FigureValue.vue'
import Term from '../ui/Term.vue'
import { plain, signWord, sizeOf, toneOf } from '../ui/format'
import { useJob } from '../state/useJob'
import { useReference } from '../state/useReference'
import { KINDS, type Kind } from './patterns'
import RailMarks from './RailMarks.vue'
import RailRow from './RailRow.vue'
import { useRail } from './useRail'

const job = useJob()
const rail = useRail()
const reference = useReference()
const box = ref<HTMLElement>()
const { width } = useElementSize(box)
const whole = ref<HTMLElement>()
const { height } = useElementSize(whole, undefined, { box: 'border-box' })
/** What stands below a rail that stays in view keeps clear of it. */
watchEffect(() => {
  const stays = whole.value && getComputedStyle(whole.value).position === 'sticky'
  document.documentElement.style.setProperty('--rail-h', `${stays ? height.value : 0}px`)
})

const TOP = 16
const BEFORE = TOP + 24
const AFTER = BEFORE + 30
const LOW = 32
const LANES = 4
const blocks = rail.blocks
const earned = computed(() => rail.earns.value?.value ?? null)
const far = computed(() => {
  const spent = (['before', 'after'] as const).map((s) => rail.line(s)?.known_spends ?? 0)
  return Math.max(...spent, earned.value ?? 0, 1) * 1.03
})
const scale = computed(() => scaleLinear([0, far.value], [0, Math.max(width.value - 2, 10)]))
const step = computed(() => [1, 2, 5, 10, 20, 50].find((s) => scale.value(s) > 30) ?? 100)
const ticks = computed(() => Array.from({ length: Math.floor(far.value) + 1 }, (_, i) => i))
const kinds = computed(() => {
  const present = new Set<Kind>([...blocks.value.before, ...blocks.value.after].map((b) => b.kind))
  return (Object.keys(KINDS) as Kind[]).filter((k) => present.has(k)).map((k) => ({ key: k, ...KINDS[k] }))
})
const big = computed(() => rail.keeps(job.side))
const amount = computed(() => (big.value ? sizeOf(big.value) : undefined))
const closeCall = computed(() => rail.verdict(job.side) === 'too_close')
/** Where what is kept lies, as far as the verdict looks either way; drawn against nothing kept. */
const band = computed(() => {
  const line = rail.line(job.side)
  const said = job.rpm === null ? line?.band : null
  if (!said || line?.keeps.value == null || said[0] === said[1]) return null
  const [low, high] = [Math.min(said[0], 0), Math.max(said[1], 0)]
  const place = scaleLinear([low, high], [4, 252])
  return { from: place(said[0]), to: place(said[1]), at: place(line.keeps.value), none: place(0), words: said.map((v) => plain(v, 1)) }
})
const lasts = computed(() => rail.line(job.side)?.lasts)
const battery = computed(() => rail.line(job.side)?.battery)
const top = computed(() => Math.ceil((rail.rail.value?.redline ?? 0) / (rail.rail.value?.step ?? 1)) * (rail.rail.value?.step ?? 1))
const slides = computed(() => rail.running.value && rail.rail.value?.curve === null)
const marks = computed(() => {
  if (!slides.value) return []
  return (['before', 'after'] as const).flatMap((side) => {
    const value = rail.line(side)?.break_even.value
    return value ? [{ side, rpm: value, at: (value / top.value) * 100 }] : []
  })
})
const tone = computed(() => toneOf(rail.verdict(job.side)))

function slide(event: Event) {
  job.rpm = Number((event.target as HTMLInputElement).value)
}
</script>

<template>
  <section ref="whole" aria-label="Amp rail" class="border-b border-line bg-leaf px-5 pt-1 pb-0" data-testid="rail">
    <RailMarks />
    <div class="flex flex-wrap items-center gap-x-3.5">
      <label class="sr-only" for="rail-scenario">Scenario</label>
      <select
        id="rail-scenario"
        class="min-h-11 w-auto max-w-[14rem] border-0 border-b-2 border-edge bg-leaf pr-1 font-bold"
        :value="rail.scenario.value?.id"
        @change="job.look({ scenario: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="s in job.document?.scenarios" :key="s.id" :value="s.id">{{ s.name }}</option>
      </select>
      <select
        v-if="rail.circuits.value.length > 1"
        aria-label="Circuit"
        class="min-h-11 border-0 border-b-2 border-edge bg-leaf pr-2 font-semibold"
        :value="rail.rail.value?.circuit"
        @change="job.look({ circuit: ($event.target as HTMLSelectElement).value })"
      >
        <option v-for="c in rail.circuits.value" :key="c.id" :value="c.id">{{ c.name }}</option>
      </select>
      <span v-if="rail.running.value && rail.rpm.value !== null"
        ><span class="num" data-testid="rail-rpm">{{ plain(rail.rpm.value, 0) }}</span> <span class="unit">rpm</span></span
      >
      <span v-if="rail.earns.value && rail.running.value">
        <Term of="earns">earns</Term>&ensp;<FigureValue :figure="rail.earns.value" name="Earns" class="font-bold text-brass" />
      </span>
      <span v-if="rail.line(job.side)">
        <Term of="spends">spends</Term>&ensp;<FigureValue :figure="rail.line(job.side)!.spends" name="Spends" class="font-semibold" />
      </span>
      <span v-if="rail.systemV(job.side)?.value"
        >at <FigureValue :figure="rail.systemV(job.side)!" name="System volts" class="font-semibold"
      /></span>
      <span class="ml-auto flex flex-wrap gap-x-2.5 text-sm text-dim" aria-hidden="true">
        <span v-for="k in kinds" :key="k.key" class="flex items-center gap-1">
          <svg width="14" height="18">
            <rect width="14" height="18" :fill="k.tone" />
            <rect y="9" width="14" height="9" :fill="k.pattern" /></svg
          >{{ k.label }}
        </span>
      </span>
    </div>

    <div class="flex gap-4 max-[560px]:flex-col max-[560px]:gap-1">
      <div ref="box" class="min-w-0 flex-1">
        <svg
          :width="width"
          :height="AFTER - 8 + LOW + 6 + LANES * 14"
          class="block"
          role="group"
          aria-label="Amps spent against amps earned"
        >
          <g aria-hidden="true">
            <template v-if="earned !== null && rail.running.value">
              <rect x="0" y="2" :width="scale(Math.max(earned, 0))" height="8" fill="var(--brass)" />
              <rect
                v-if="rail.earns.value?.sigma"
                :x="scale(Math.max(earned - rail.earns.value.sigma, 0))"
                y="2"
                :width="scale(Math.min(earned + rail.earns.value.sigma, far)) - scale(Math.max(earned - rail.earns.value.sigma, 0))"
                height="8"
                fill="var(--brass)"
                opacity="0.45"
              />
            </template>
            <g v-for="t in ticks" :key="t">
              <path :d="`M${scale(t) + 0.75} 14v${t % step === 0 ? 9 : 5}`" stroke="var(--dim)" stroke-width="1.5" />
              <text v-if="t % step === 0 && scale(t) < width - 16" :x="scale(t) + 5" y="26" font-size="13" fill="var(--dim)" class="num">
                {{ t }}
              </text>
            </g>
          </g>
          <RailRow
            :blocks="blocks.before"
            :scale="scale"
            :earned="earned"
            :top="BEFORE - 8"
            :height="22"
            :strong="false"
            label="As it came in"
          />
          <RailRow
            :blocks="blocks.after"
            :scale="scale"
            :earned="earned"
            :top="AFTER - 8"
            :height="LOW"
            strong
            label="After the change"
            :lanes="LANES"
            :far="width"
          />
          <path
            v-if="earned !== null && rail.running.value"
            :d="`M${scale(earned)} 2V${AFTER + LOW - 6}`"
            stroke="var(--brass)"
            stroke-width="2.5"
            aria-hidden="true"
          />
        </svg>
      </div>
      <div class="w-64 shrink-0 leading-tight max-[560px]:w-full" aria-live="polite" data-testid="rail-verdict">
        <dl class="grid grid-cols-[1fr_auto] text-sm" data-testid="steps">
          <template v-for="s in rail.steps.value" :key="s.key">
            <dt :class="s.key === job.side ? 'font-bold' : 'text-dim'" :aria-current="s.key === job.side">
              {{ s.same ?? s.label }}
            </dt>
            <dd class="text-right" :class="toneOf(s.verdict)">
              <Term :of="signWord(s.keeps) || 'keeps'" class="font-semibold" />
              <template v-if="s.key !== job.side && s.keeps">
                <FigureValue :figure="sizeOf(s.keeps)" :name="`Kept, ${s.label}`" class="ml-1" />
              </template>
            </dd>
          </template>
        </dl>
        <template v-if="amount && amount.value !== null && amount.value !== undefined">
          <p class="text-right text-[2.1rem] leading-none font-bold" :class="tone" data-testid="rail-kept">
            <FigureValue :figure="amount" name="Kept" sigma class="no-underline!" />
          </p>
          <svg
            v-if="band"
            viewBox="0 0 256 14"
            class="block h-3.5 w-full"
            role="img"
            :aria-label="`kept between ${band.words.join(' and ')} A`"
            data-testid="band"
          >
            <title>The verdict looks two ± either way: between {{ band.words.join(' and ') }} A. The tick is nothing kept.</title>
            <path :d="`M${band.from} 8H${band.to}`" stroke="currentColor" stroke-width="3" :class="tone" />
            <path :d="`M${band.from} 4V12M${band.to} 4V12`" stroke="currentColor" stroke-width="1.5" :class="tone" />
            <circle :cx="band.at" cy="8" r="3.5" fill="currentColor" :class="tone" />
            <path :d="`M${band.none} 0V14`" stroke="var(--ink)" stroke-width="2" />
          </svg>
          <p v-if="band" class="text-right text-xs whitespace-nowrap text-dim">
            <Term of="±">two ±</Term>: {{ band.words[0] }} to {{ band.words[1] }} A<template v-if="amount.assumed"
              >; <Term of="◇">◇ assumed</Term></template
            >
          </p>
          <p class="text-right text-sm">
            <span v-if="closeCall" class="font-semibold text-brass">{{ reference.verdict('too_close') }}</span>
            <span v-if="battery" :class="closeCall ? 'ml-2' : ''"
              >{{ battery }}<template v-if="lasts?.value"> in <FigureValue :figure="lasts" name="Battery lasts" /></template
            ></span>
          </p>
        </template>
        <p v-else class="text-sm text-brick">{{ big?.reason ?? 'unknown' }}</p>
      </div>
    </div>

    <div v-if="slides" class="flex items-center gap-4 max-[560px]:flex-col max-[560px]:items-stretch max-[560px]:gap-0">
      <div class="relative min-w-0 flex-1">
        <span
          v-for="m in marks"
          :key="m.side"
          class="pointer-events-none absolute top-0 h-3 w-0.5"
          :class="m.side === 'after' ? 'bg-led-line bg-ink' : 'bg-brick'"
          :style="{ left: `calc(${m.at}% )` }"
          :title="`break-even ${m.side}: ${Math.round(m.rpm)} rpm`"
        />
        <input
          type="range"
          class="rail-speed block w-full"
          min="0"
          :max="top"
          :step="rail.rail.value?.step"
          :value="rail.rpm.value ?? 0"
          aria-label="Engine speed"
          :aria-valuetext="`${rail.rpm.value} rpm`"
          @input="slide"
        />
      </div>
      <div class="flex w-64 shrink-0 items-center gap-1 max-[560px]:w-full">
        <button type="button" class="btn btn-bare px-0 text-sm" :disabled="job.rpm === null" @click="job.rpm = null">
          scenario’s speed
        </button>
      </div>
    </div>
  </section>
</template>

<style scoped>
.rail-speed {
  appearance: none;
  height: 40px;
  background: transparent;
}
.rail-speed::-webkit-slider-runnable-track {
  height: 5px;
  background: var(--line);
}
.rail-speed::-webkit-slider-thumb {
  appearance: none;
  width: 28px;
  height: 28px;
  margin-top: -12px;
  background: var(--brass);
  border: 3px solid var(--leaf);
  outline: 2px solid var(--brass);
}
.rail-speed::-moz-range-track {
  height: 5px;
  background: var(--line);
}
.rail-speed::-moz-range-thumb {
  width: 26px;
  height: 26px;
  border-radius: 0;
  background: var(--brass);
}
</style>
