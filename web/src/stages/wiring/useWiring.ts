import { computed, ref } from 'vue'
import { api } from '../../api/client'
import { useFetched } from '../../state/useFetched'
import { useJob } from '../../state/useJob'
import { useStageView } from '../../state/useStageView'
import { turned } from './turned'

/** The wiring of the job in hand, and what it does with the switches standing so. */
export function useWiring() {
  const job = useJob()
  const on = ref<string[]>(['key', 'lights'])
  const full = ref(false)
  const all = ref(false)
  const flag = (value: boolean) => (value ? '1' : '0')
  const { view, failed, busy } = useStageView('wiring', () => ({ all: flag(all.value) }))
  const known = computed(() => on.value.filter((k) => view.value?.switches.some((s) => s.key === k)))
  const { data: look, failed: unsolved } = useFetched(
    [() => job.id, () => job.view?.revision, known, full, all, () => view.value !== null],
    () =>
      view.value
        ? api.GET('/api/jobs/{id}/wiring', {
            params: {
              path: { id: job.id },
              query: { on: known.value.join('+'), full: flag(full.value) as '1', all: flag(all.value) as '1' },
            },
          })
        : null,
  )
  function turn(key: string) {
    on.value = turned(known.value, key)
  }

  return { view, failed, unsolved, busy, look, on: known, turn, full, all }
}
