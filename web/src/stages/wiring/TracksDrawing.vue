<script setup lang="ts">
import { computed, ref } from 'vue'
import type { Schemas } from '../../api/client'
import { useReference } from '../../state/useReference'
import { plain } from '../../ui/format'
import { useFlash } from '../../state/useFlash'

/** Current tracks of the core, alive as the core solved them. */
const props = defineProps<{ drawing: Schemas['WiringTracks']; look: Schemas['WiringLook'] | null; picked: string | null; zoom: number }>()
const emit = defineEmits<{ pick: [load: string]; touch: [words: string] }>()
const LETTERS = '"Atkinson Hyperlegible Mono Variable", monospace'
const reference = useReference()
const rate = computed(() => (props.look?.flashing ? (reference.tables?.signal_defaults.flash_per_min ?? null) : null))
const { closed: lit } = useFlash(rate, ref(0.5))
const seen = computed(() => new Map((props.look?.seen ?? []).map((s) => [s.id, s])))
const fuses = computed(() => new Map((props.look?.fuses ?? []).map((f) => [f.id, f])))
const wires = computed(() => new Map((props.look?.wires ?? []).map((w) => [`${w.load} ${w.key}`, w])))
const closed = computed(() => new Set(props.look?.closed ?? []))
const GLOW: Record<string, number> = { ghost: 0.16, dim: 0.45, on: 1, flash: 1 }

function glow(id: string | null) {
  const looks = (id && seen.value.get(id)?.looks) || 'off'
  return looks === 'flash' && !lit.value ? 0 : (GLOW[looks] ?? 0)
}
function figures(id: string | null, kind: string): string[] {
  if (kind === 'coil') return [props.look?.relays.includes(id ?? '') ? 'pulled in' : 'at rest']
  const item = id ? seen.value.get(id) : undefined
  if (!item || item.volts === null || item.amps === null || !(item.amps > 0)) return []
  return [`${plain(item.amps, 2)} A`, `${plain(item.volts, 1)} V`]
}
function carries(run: Schemas['WiringTracks']['runs'][number]) {
  if (run.wire) return (wires.value.get(run.wire.join(' '))?.amps ?? 0) !== 0
  return (seen.value.get(run.load ?? '')?.amps ?? 0) !== 0
}
/** What a part does just now, in words: opened by a touch. */
function touched(p: Schemas['WiringTracks']['parts'][number]) {
  const fuse = fuses.value.get(p.part)
  if (fuse)
    return `${fuse.name}: ${plain(fuse.rating, 1)} A fuse, ${plain(fuse.amps, 2)} A, ${plain(fuse.share * 100, 0)} %${fuse.open ? ', open' : ''}`
  if (p.kind === 'contact' || p.kind === 'pull') return `${nameOf(p.id)}: contact ${closed.value.has(p.part) ? 'closed' : 'open'}`
  const item = p.id ? seen.value.get(p.id) : undefined
  const drop = item?.drop ? `, loses ${plain(item.drop * 100, 1)} %` : ''
  return `${nameOf(p.id)}: ${[item?.looks, ...figures(p.id, p.kind)].filter(Boolean).join(', ')}${drop}`
}
function touchedRun(run: Schemas['WiringTracks']['runs'][number]) {
  const wire = run.wire && wires.value.get(run.wire.join(' '))
  return `${nameOf(run.load)}: ${wire ? `wire ${wire.key.replace('_', ' ')}, ${plain(wire.amps, 2)} A, loses ${plain(wire.drop, 3)} V` : 'the machine’s own wire'}`
}
const nameOf = (id: string | null) => props.drawing.texts.find((t) => t.load === id && t.bold)?.lines.join(' ') ?? ''
function open(id: string | null, words: string) {
  if (id) emit('pick', id)
  emit('touch', words)
}
function says(p: Schemas['WiringTracks']['parts'][number]) {
  const name = nameOf(p.id) || (p.id ?? '')
  const item = p.id ? seen.value.get(p.id) : undefined
  return `${name}: ${p.kind}${item ? `, ${item.looks}` : ''} ${figures(p.id, p.kind).join(' ')}`.trim()
}
</script>

<template>
  <div class="overflow-x-auto border border-line bg-leaf print:overflow-visible" data-testid="tracks" tabindex="-1">
    <svg
      :viewBox="`0 0 ${drawing.width} ${drawing.height}`"
      :style="{ width: `${drawing.width * zoom}px`, maxWidth: 'none' }"
      class="block print:!w-full"
      role="group"
      aria-label="Current tracks"
      :font-family="LETTERS"
    >
      <g v-for="r in drawing.rails" :key="r.key">
        <path :d="`M${r.from} ${r.y}H${r.to}`" stroke="var(--ink)" :stroke-width="r.key === '31' ? 4 : 3.5" />
      </g>
      <template v-for="(r, i) in drawing.runs" :key="i">
        <path
          :d="`M${r.points.map((p) => p.join(' ')).join('L')}`"
          fill="none"
          :stroke="r.paint[0] ?? (carries(r) ? 'var(--ink)' : 'var(--edge)')"
          :stroke-width="carries(r) ? 5 : 2.5"
        />
        <path v-if="r.paint[1]" :d="`M${r.points.map((p) => p.join(' ')).join('L')}`" fill="none" :stroke="r.paint[1]" stroke-width="1.5" />
      </template>
      <path
        v-for="(r, i) in drawing.runs"
        :key="`touch${i}`"
        :d="`M${r.points.map((p) => p.join(' ')).join('L')}`"
        fill="none"
        stroke="transparent"
        stroke-width="28"
        class="cursor-pointer"
        data-run
        @click="open(r.load, touchedRun(r))"
      />
      <g
        v-for="p in drawing.parts"
        :key="p.part"
        :transform="`translate(${p.x} ${p.y})`"
        class="cursor-pointer outline-offset-4"
        role="button"
        tabindex="0"
        :data-part="p.part"
        :data-kind="p.kind"
        :data-looks="p.id ? seen.get(p.id)?.looks : undefined"
        :data-closed="p.kind === 'contact' || p.kind === 'pull' ? closed.has(p.part) : undefined"
        :aria-label="says(p)"
        @click="open(p.id, touched(p))"
        @keydown.enter="open(p.id, touched(p))"
        @keydown.space.prevent="open(p.id, touched(p))"
      >
        <rect x="-30" y="-30" width="60" height="60" fill="transparent" />
        <g
          fill="none"
          :stroke="picked === p.id ? 'var(--brass)' : 'var(--ink)'"
          :stroke-width="picked === p.id ? 3.5 : 2.5"
          stroke-linejoin="round"
        >
          <template v-if="p.kind === 'fuse'">
            <path d="M-9 -20H9V20H-9Z" fill="var(--leaf)" />
            <path v-if="!fuses.get(p.part)?.open" d="M0 -20V20" />
            <path v-else d="M0 -20V-8M0 8V20" stroke="var(--brick)" />
          </template>
          <template v-else-if="p.kind === 'contact' || p.kind === 'pull'">
            <rect x="-7" y="-20" width="14" height="40" fill="var(--leaf)" stroke="none" />
            <circle cy="-20" r="4" fill="var(--ink)" />
            <circle cy="20" r="4" fill="var(--ink)" />
            <path :d="closed.has(p.part) ? 'M0 20V-20' : 'M0 20L15 -16'" />
          </template>
          <template v-else-if="p.kind === 'coil'">
            <path d="M-26 -20H26V20H-26Z" :fill="look?.relays.includes(p.id ?? '') ? 'var(--brass-soft)' : 'var(--leaf)'" />
            <path d="M-26 20 -6 -20" />
          </template>
          <template v-else-if="p.kind === 'lamp'">
            <circle v-if="glow(p.id) > 0" r="31" fill="var(--light-amber)" stroke="none" :opacity="glow(p.id) * 0.35" />
            <circle
              r="24"
              :fill="glow(p.id) > 0.3 ? 'var(--light-amber)' : 'var(--leaf)'"
              :fill-opacity="glow(p.id) > 0.3 ? glow(p.id) : 1"
            />
            <path
              :d="p.filament ? 'M-16 -16 16 16M-16 16 16 -16' : 'M-9 -12 11 0 -9 12ZM11 -12V12'"
              :stroke="glow(p.id) > 0.3 ? 'var(--block-ink)' : 'var(--ink)'"
            />
          </template>
          <path v-else-if="p.kind === 'box'" d="M-26 -30H26V30H-26Z" fill="var(--leaf)" />
          <path v-else d="M-26 -24H26V24H-26Z" :fill="glow(p.id) > 0 ? 'var(--brass-soft)' : 'var(--leaf)'" />
        </g>
      </g>
      <text
        v-for="(t, i) in drawing.texts"
        :key="i"
        :x="t.x"
        :y="t.y"
        :font-size="t.size"
        :font-weight="t.bold ? 700 : 400"
        fill="var(--ink)"
        data-words
      >
        <tspan v-for="(l, j) in t.lines" :key="j" :x="t.x" :dy="j === 0 ? 0 : t.line">{{ l }}</tspan>
      </text>
      <template v-for="p in drawing.parts" :key="`v${p.part}`">
        <text v-if="p.value && figures(p.id, p.kind).length" :y="p.value.y" font-size="16" fill="var(--dim)" data-words>
          <tspan v-for="(f, j) in figures(p.id, p.kind)" :key="j" :x="p.value.x" :dy="j === 0 ? 0 : 19">{{ f }}</tspan>
        </text>
      </template>
    </svg>
  </div>
</template>
