<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useReference } from '../../state/useReference'
import { plain } from '../../ui/format'
import { useFlash } from '../../state/useFlash'

/** The loop of this machine: what the core laid out, lit as the core solved it. */
const props = defineProps<{ side: Schemas['SignalsSide']; command: string; title: string }>()
const reference = useReference()
type Item = Schemas['SeenItem']
const view = computed(() => props.side.views.find((v) => v.command === props.command)!)
const rate = computed(() => (view.value.rhythm === 'flashes' ? view.value.rate : null))
const { closed, still, held, set } = useFlash(
  rate,
  computed(() => view.value.on_share),
)
const tell = useFlash(
  computed(() => view.value.telltale_rate ?? rate.value),
  computed(() => view.value.on_share),
)
const chosen = ref<string | null>(null)
const items = computed(() => new Map([...view.value.lamps, ...view.value.telltales].map((i) => [i.id, i])))

function phase(item: Item) {
  const on = item.id.startsWith('telltale') ? tell.closed.value : closed.value
  return view.value.rhythm === 'none' || (!on && view.value.rhythm === 'flashes') ? item.open : item.closed
}
/** The colour of the light, whatever makes it: signals amber, tell-tales green. What makes it, the symbol says. */
const LIGHT: Record<string, string> = { lamp: 'var(--light-amber)', telltale: 'var(--light-green)' }
const GLOW = { off: 0, ghost: 0.16, dim: 0.4, lit: 1 }
function glow(id: string | null) {
  const item = id ? items.value.get(id) : undefined
  return item ? GLOW[phase(item).level] : 0
}
const contact = computed(() => {
  if (view.value.rhythm === 'flashes') return closed.value ? 'closed' : 'open'
  return view.value.rhythm === 'steady' ? 'closed' : 'open'
})
/** The switch is two contacts: the one commanded tells. */
function partOf(id: string | null) {
  if (!id) return undefined
  const wanted = id === 'switch' ? `switch_${props.command === 'right' ? 'right' : 'left'}` : id
  const found = view.value.parts.find((p) => p.id === wanted)
  return found && { ...found, name: reference.tables?.signal_parts[id] ?? id }
}
const pickedPart = computed(() => partOf(chosen.value))
const picked = computed(() => (chosen.value ? items.value.get(chosen.value) : undefined))
const LEVELS = { off: 'dark', ghost: 'ghost', dim: 'dim', lit: 'lit' }
function describe(item: Item) {
  return `${item.name}: ${item.looks}, closed ${LEVELS[item.closed.level]} ${plain(item.closed.volts, 2)} V ${plain(item.closed.amps, 3)} A`
}
</script>

<template>
  <figure class="min-w-0" :data-testid="`loop-${title}`">
    <figcaption class="mb-1 flex flex-wrap items-center gap-3">
      <span class="font-bold">{{ title === 'before' ? 'As it came in' : 'After the change' }}</span>
      <span class="ml-auto flex gap-1">
        <button v-if="still" type="button" class="btn min-h-11" @click="((set = !set), (tell.set.value = set))">
          contact {{ set ? 'closed' : 'open' }}
        </button>
        <button type="button" class="btn min-h-11" :aria-pressed="held" @click="((held = !held), (tell.held.value = held))">
          hold still
        </button>
      </span>
    </figcaption>
    <p class="mb-1" :class="view.well ? 'text-dim' : 'font-semibold text-brick'" role="status">
      {{ view.words }}
    </p>
    <svg
      :viewBox="`0 0 ${side.drawing.width} ${side.drawing.height}`"
      class="block w-full border border-line bg-leaf"
      role="group"
      :aria-label="`Signal circuit, ${title}. ${view.words}`"
    >
      <g fill="none" stroke="var(--edge)" stroke-width="2.5">
        <template v-for="(w, i) in side.drawing.wires" :key="i">
          <polyline
            :points="w.points.map((p) => p.join(',')).join(' ')"
            :stroke="w.paint[0]"
            :stroke-width="w.paint.length ? 5 : undefined"
          />
          <polyline v-if="w.paint[1]" :points="w.points.map((p) => p.join(',')).join(' ')" :stroke="w.paint[1]" stroke-width="1.5" />
        </template>
      </g>
      <text v-for="(t, i) in side.drawing.texts" :key="`t${i}`" class="num" :y="t.y" :font-size="t.size" fill="var(--ink)" data-words>
        <tspan v-for="(l, j) in t.lines" :key="j" :x="t.x" :dy="j === 0 ? 0 : t.line">{{ l }}</tspan>
      </text>
      <template v-for="(p, i) in side.drawing.parts" :key="i">
        <g
          v-if="p.kind === 'lamp' || p.kind === 'telltale'"
          :transform="`translate(${p.x} ${p.y})`"
          class="cursor-pointer outline-none"
          role="button"
          tabindex="0"
          :data-part="p.id"
          :data-looks="p.id ? items.get(p.id)?.looks : undefined"
          :aria-label="p.id && items.get(p.id) ? describe(items.get(p.id)!) : (p.label ?? '')"
          @click="chosen = p.id"
          @focus="chosen = p.id"
          @keydown.enter="chosen = p.id"
          @keydown.space.prevent="chosen = p.id"
        >
          <circle v-if="glow(p.id) > 0" :r="p.kind === 'lamp' ? 34 : 27" :fill="LIGHT[p.kind]" :opacity="glow(p.id) * 0.35" />
          <circle
            :r="p.kind === 'lamp' ? 22 : 18"
            :fill="glow(p.id) > 0 ? LIGHT[p.kind] : 'var(--paper)'"
            :fill-opacity="glow(p.id) > 0 ? glow(p.id) : 1"
            :stroke="chosen === p.id ? 'var(--brass)' : 'var(--ink)'"
            :stroke-width="chosen === p.id ? 5 : 2.5"
          />
          <path
            :d="p.filament ? 'M-11 -11 11 11M-11 11 11 -11' : 'M-8 -10 9 0 -8 10ZM9 -10V10'"
            fill="none"
            :stroke="glow(p.id) > 0.3 ? 'var(--block-ink)' : 'var(--ink)'"
            stroke-width="2"
          />
          <text :x="p.label_at === 'right' ? 28 : 2" :y="p.label_at === 'right' ? 6 : -28" font-size="20" fill="var(--ink)">
            {{ p.label }}
          </text>
        </g>
        <g
          v-else
          :transform="`translate(${p.x} ${p.y})`"
          :class="p.id ? 'cursor-pointer' : ''"
          :role="p.id ? 'button' : undefined"
          :tabindex="p.id ? 0 : undefined"
          :aria-label="p.id ? partOf(p.id)?.name : undefined"
          :data-part="p.id"
          @click="p.id && (chosen = p.id)"
          @focus="p.id && (chosen = p.id)"
        >
          <rect
            v-if="p.id"
            x="-26"
            y="-30"
            width="52"
            height="60"
            fill="transparent"
            :stroke="chosen === p.id ? 'var(--brass)' : 'none'"
            stroke-width="3"
          />
          <g :transform="`rotate(${p.turn})`" fill="none" stroke="var(--ink)" stroke-width="2.5">
            <path v-if="p.kind === 'battery'" d="M-22 -24H22M-11 -8H11M-22 8H22M-11 24H11" />
            <g v-else-if="p.kind === 'fuse'">
              <rect x="-20" y="-8" width="40" height="16" />
              <path v-if="!view.fuse_blows" d="M-20 0H20" />
              <path v-else d="M-20 0H-7M7 0H20" stroke="var(--brick)" />
            </g>
            <rect v-else-if="p.kind === 'flasher'" x="-50" y="-34" width="100" height="68" fill="var(--paper)" />
            <g v-else-if="p.kind === 'switch'">
              <circle cx="-18" r="4" />
              <path v-if="command === 'hazard'" d="M-14 0 22 -18M-14 0 22 18" />
              <path v-else :d="`M-14 0 22 ${command === 'left' ? -18 : command === 'right' ? 18 : 0}`" />
              <circle cx="24" cy="-18" r="4" />
              <circle cx="24" cy="18" r="4" />
            </g>
            <path v-else-if="p.kind === 'diode'" d="M-12 -9 8 0 -12 9ZM8 -9V9" fill="var(--leaf)" />
            <rect v-else-if="p.kind === 'resistor'" x="-9" y="-20" width="18" height="40" fill="var(--resistor)" />
            <path v-else-if="p.kind === 'earth'" d="M-12 -6H12M-8 0H8M-4 6H4" />
          </g>
          <template v-if="p.kind === 'flasher'">
            <text y="26" text-anchor="middle" font-size="19" fill="var(--ink)">{{ contact }}</text>
            <template v-if="p.pins?.length">
              <text x="-44" y="4" font-size="17" fill="var(--dim)" class="num">49</text>
              <text x="44" y="4" text-anchor="end" font-size="17" fill="var(--dim)" class="num">49a</text>
              <text v-if="p.pins.includes('31')" x="6" y="52" font-size="17" fill="var(--dim)" class="num">31</text>
            </template>
          </template>
          <text
            v-else-if="p.label"
            :x="p.label_at === 'right' ? 16 : 0"
            :y="p.label_at === 'right' ? 5 : -16"
            :text-anchor="p.label_at === 'right' ? 'start' : 'middle'"
            font-size="18"
            fill="var(--dim)"
          >
            {{ p.label }}
          </text>
        </g>
      </template>
    </svg>
    <p class="min-h-12 py-1" aria-live="polite" data-testid="part-reading">
      <template v-if="picked">
        <b>{{ picked.name }}</b> {{ picked.looks }}. Contact closed: <span class="num">{{ plain(picked.closed.volts, 2) }}</span> V,
        <span class="num">{{ plain(picked.closed.amps, 3) }}</span> A, <span class="num">{{ plain(picked.closed.watts, 1) }}</span> W. Open:
        <span class="num">{{ plain(picked.open.volts, 2) }}</span> V, <span class="num">{{ plain(picked.open.amps, 3) }}</span> A.
      </template>
      <template v-else-if="pickedPart">
        <b>{{ pickedPart.name }}</b>. Contact closed: <span class="num">{{ plain(pickedPart.closed_v, 2) }}</span> V across,
        <span class="num">{{ plain(pickedPart.closed_a, 3) }}</span> A. Open: <span class="num">{{ plain(pickedPart.open_v, 2) }}</span> V,
        <span class="num">{{ plain(pickedPart.open_a, 3) }}</span> A.
      </template>
      <span v-else class="text-dim"
        >Touch any part for its volts and amps. Flasher: {{ plain(view.flasher_a, 2) }} A while closed<template v-if="view.first_s"
          >, first flash after {{ plain(view.first_s, 1) }} s</template
        >. {{ view.balance }}</span
      >
    </p>
  </figure>
</template>
