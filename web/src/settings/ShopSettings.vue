<script setup lang="ts">
import { computed, onMounted, ref } from 'vue'
import { api, AWAY, type FieldError, type Schemas } from '../api/client'
import { useReference } from '../state/useReference'
import { useTheme } from '../state/useTheme'
import { useUnits } from '../state/useUnits'
import { useMe } from '../state/useMe'
import CopiesPart from './CopiesPart.vue'
import InstrumentsPart from './InstrumentsPart.vue'
import MePart from './MePart.vue'
import NetworkPart from './NetworkPart.vue'
import PeoplePart from './PeoplePart.vue'

const reference = useReference()
const theme = useTheme()
const me = useMe()
const units = useUnits()
const shop = ref<Schemas['Shop'] | null>(null)
const failed = ref('')
const typed = ref<Record<string, string>>({})
const errors = ref<Record<string, FieldError>>({})
const saved = ref('')
document.title = 'Shop settings · Miser'

const groups = computed(() => {
  const map = new Map<string, Schemas['Reference']['assumptions']>()
  for (const a of reference.tables?.assumptions ?? []) map.set(a.group, [...(map.get(a.group) ?? []), a])
  return [...map]
})

async function fetchShop() {
  failed.value = ''
  try {
    await reference.fetchOnce()
    const { data } = await api.GET('/api/shop')
    if (data) shop.value = data
  } catch {
    failed.value = AWAY
  }
}
onMounted(fetchShop)

async function send(body: Schemas['ShopChange'], key?: string) {
  try {
    const { data, error } = await api.PATCH('/api/shop', { body })
    if (data) {
      shop.value = data
      units.units = data.units
      if (key) {
        delete errors.value[key]
        delete typed.value[key]
      }
      saved.value = 'saved'
    } else if (error) {
      saved.value = 'not saved'
      for (const f of error.fields) errors.value[f.at.split('/').pop() as string] = f
    }
  } catch {
    saved.value = `Not saved. ${AWAY} What you typed stays here.`
  }
}
function kept(key: string, unit: string): string {
  const value = shop.value?.assumptions[key]
  return value === undefined ? '' : units.settingText(value, unit)
}
function entered(key: string, unit: string, event: Event) {
  const text = (event.target as HTMLInputElement).value
  typed.value[key] = text
  const suffix = unit === 'm' && units.bare(text) ? ` ${units.shown(unit, true)!.suffix}` : ''
  void send({ assumptions: { [key]: text.trim() === '' ? null : text + suffix } }, key)
}
</script>

<template>
  <div class="mx-auto max-w-[1100px] px-5 pb-12">
    <header class="flex flex-wrap items-center gap-3 border-b-2 border-ink py-3">
      <RouterLink to="/" class="btn btn-bare">‹ bay board</RouterLink>
      <h1 class="text-2xl">Shop settings</h1>
      <span class="ml-auto text-sm" :class="saved.startsWith('not') ? 'text-brick' : 'text-dim'" role="status">{{ saved }}</span>
    </header>
    <main id="main" tabindex="-1" class="outline-none">
      <p v-if="failed" class="my-4 text-brick" role="alert">
        {{ failed }} <button type="button" class="btn" @click="fetchShop">Try again</button>
      </p>
      <template v-if="shop">
        <p class="my-4 text-dim">New jobs begin with these. A job already open keeps its own, changed on its Budget stage.</p>
        <fieldset :disabled="!me.mayOwn" class="contents">
          <div class="flex flex-wrap items-end gap-6">
            <div class="min-w-0 max-w-full">
              <label class="mb-1 block text-dim" for="school">Volts that amps are figured at</label>
              <select
                id="school"
                class="field w-96 max-w-full"
                :value="shop.voltage_school"
                @change="send({ voltage_school: ($event.target as HTMLSelectElement).value as never })"
              >
                <option v-for="v in reference.tables?.voltage_schools" :key="v.key" :value="v.key">{{ v.label }}</option>
              </select>
            </div>
            <div role="group" aria-label="Lengths and wire" class="flex">
              <button type="button" class="btn" :aria-pressed="shop.units === 'metric'" @click="send({ units: 'metric' })">
                metres, mm²
              </button>
              <button type="button" class="btn -ml-px" :aria-pressed="shop.units === 'us'" @click="send({ units: 'us' })">
                feet, gauge
              </button>
            </div>
            <div role="group" aria-label="Theme">
              <button type="button" class="btn" @click="theme.toggle">
                {{ theme.dark.value ? 'Light theme' : 'Dark theme' }} <span class="kbd">T</span>
              </button>
            </div>
          </div>
        </fieldset>
        <MePart />
        <template v-if="me.mayOwn">
          <PeoplePart />
          <NetworkPart :hosts="shop.hosts" @saved="((shop = $event), (saved = 'saved'))" />
          <CopiesPart />
        </template>
        <fieldset :disabled="!me.mayOwn" class="contents">
          <InstrumentsPart :instruments="shop.instruments" @saved="((shop = $event), (saved = 'saved'))" />
          <section v-for="[group, list] in groups" :key="group" class="mt-6">
            <h2 class="mb-2 text-lg">{{ group }}</h2>
            <div class="overflow-x-auto print:overflow-visible">
              <table class="sheet w-full">
                <thead>
                  <tr>
                    <th>assumption</th>
                    <th class="w-44">value</th>
                    <th class="r">default</th>
                    <th>why</th>
                  </tr>
                </thead>
                <tbody>
                  <tr v-for="a in list" :key="a.key">
                    <td>
                      <label :for="`set-${a.key}`">{{ a.label }}</label>
                    </td>
                    <td>
                      <div class="relative">
                        <input
                          :id="`set-${a.key}`"
                          class="field num"
                          :class="a.unit === '1' ? '' : 'pr-14'"
                          inputmode="decimal"
                          autocomplete="off"
                          :value="typed[a.key] ?? kept(a.key, a.unit)"
                          :placeholder="units.settingText(a.default, a.unit)"
                          :aria-invalid="errors[a.key] ? 'true' : undefined"
                          @change="entered(a.key, a.unit, $event)"
                        />
                        <span v-if="a.unit !== '1'" class="unit pointer-events-none absolute top-1/2 right-2 -translate-y-1/2 text-sm">{{
                          units.shown(a.unit, true)?.unit ?? a.unit
                        }}</span>
                      </div>
                      <p v-if="errors[a.key]" class="text-sm text-brick" role="alert">
                        {{ errors[a.key].message }}. Accepted: {{ errors[a.key].accepts }}.
                      </p>
                    </td>
                    <td class="r num text-dim">{{ units.settingText(a.default, a.unit) }}</td>
                    <td class="text-sm text-dim">
                      {{ a.why }} <span class="whitespace-nowrap">({{ a.basis }})</span>
                    </td>
                  </tr>
                </tbody>
              </table>
            </div>
          </section>
        </fieldset>
      </template>
    </main>
  </div>
</template>
