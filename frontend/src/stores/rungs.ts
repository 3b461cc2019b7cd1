import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { inTurn } from '@/shell/turns'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'
import { useEvening } from './evening'

export type Ladder = Schema<'Ladder'>
export type Rung = Schema<'Rung'>

/** The chosen telescope's ladder and the rung one stands on; `,` and `.` move it from any station. */
export const useRungs = defineStore('rungs', () => {
  const evening = useEvening()
  const ways = useKept<Record<'ahead' | 'masked' | 'stacked', boolean>>('ways', { ahead: false, masked: false, stacked: false })
  /** How what is looked at goes through the field. */
  const course = shallowRef({ declination_deg: 0, of_moon: false })
  /** The rung just chosen here, until the server says the same. */
  const chosen = shallowRef<{ telescopeId: number, key: string } | null>(null)
  const telescopeId = computed(() => evening.evening?.telescope?.id ?? null)

  const courseQuery = () => ({ declination_deg: String(course.value.declination_deg), of_moon: String(course.value.of_moon) })
  const { answer: ladder, refusal, isLoading, load } = useAsked(async () => {
    if (telescopeId.value === null) return null
    const query = new URLSearchParams({ telescope_id: String(telescopeId.value), ...courseQuery() })
    for (const [way, isOn] of Object.entries(ways.value)) if (isOn) query.set(way, 'true')
    return (await call<Ladder[]>(`/powers/ladders?${query}`))[0] ?? null
  }, ['evening', 'kit'])
  watch(telescopeId, () => load())

  const selectedKey = computed(() => {
    const rungs = ladder.value?.rungs ?? []
    const own = ladder.value?.telescope_id ?? 0
    const kept = chosen.value?.telescopeId === own ? chosen.value.key : evening.evening?.choice.rungs?.[String(own)]
    return rungs.some(rung => rung.key === kept) ? kept : ladder.value?.start?.key
  })
  const selected = computed(() => ladder.value?.rungs.find(rung => rung.key === selectedKey.value))

  const next = inTurn()
  async function select (key: string) {
    const own = ladder.value?.telescope_id
    if (own === undefined || own === null) return
    const mine = { telescopeId: own, key }
    chosen.value = mine
    try {
      await next(async () => {
        if (chosen.value !== mine) return // another rung was chosen meanwhile
        await call('/powers/view', { method: 'PUT', json: { telescope_id: own, rung_key: key } })
        await evening.refresh()
        if (chosen.value === mine) chosen.value = null
      })
    } catch (error) {
      useNotices().say((error as Error).message)
    }
  }
  function step (by: number) {
    const rungs = ladder.value?.rungs ?? []
    const at = rungs.findIndex(rung => rung.key === selectedKey.value)
    const wanted = rungs[Math.min(rungs.length - 1, Math.max(0, at + by))]
    if (wanted && wanted.key !== selectedKey.value) void select(wanted.key)
  }
  return { ways, course, courseQuery, ladder, refusal, isLoading, selectedKey, selected, load, select, step }
})
