import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { call, Refusal, type Schema } from '@/api/client'
import { useEvening } from './evening'
import { useKept } from './kept'

export type Ladder = Schema<'Ladder'>
export type Rung = Schema<'Rung'>

/** The chosen telescope's ladder and the rung one stands on; `,` and `.` move it from any station. */
export const useRungs = defineStore('rungs', () => {
  const evening = useEvening()
  const ladder = shallowRef<Ladder | null>(null)
  const refusal = shallowRef<Refusal | null>(null)
  const isLoading = shallowRef(false)
  const ways = useKept<Record<'ahead' | 'masked' | 'stacked', boolean>>('ways', { ahead: false, masked: false, stacked: false })
  const declinationDeg = shallowRef(0)
  const chosenKeys = useKept<Record<string, string>>('rungs', {})

  const place = computed(() => String(ladder.value?.telescope_id ?? ''))
  const selectedKey = computed(() => {
    const rungs = ladder.value?.rungs ?? []
    const kept = chosenKeys.value[place.value]
    return rungs.some(rung => rung.key === kept) ? kept : ladder.value?.start?.key
  })
  const selected = computed(() => ladder.value?.rungs.find(rung => rung.key === selectedKey.value))

  async function load () {
    const telescopeId = evening.evening?.telescope?.id
    if (!telescopeId) {
      ladder.value = null
      return
    }
    isLoading.value = true
    const query = new URLSearchParams({ telescope_id: String(telescopeId), declination_deg: String(declinationDeg.value) })
    for (const [way, isOn] of Object.entries(ways.value)) if (isOn) query.set(way, 'true')
    try {
      const ladders = await call<Ladder[]>(`/powers/ladders?${query}`)
      ladder.value = ladders[0] ?? null
      refusal.value = null
    } catch (error) {
      refusal.value = error as Refusal
    } finally {
      isLoading.value = false
    }
  }
  function select (key: string) {
    chosenKeys.value = { ...chosenKeys.value, [place.value]: key }
  }
  function step (by: number) {
    const rungs = ladder.value?.rungs ?? []
    const at = rungs.findIndex(rung => rung.key === selectedKey.value)
    const next = rungs[Math.min(rungs.length - 1, Math.max(0, at + by))]
    if (next) select(next.key)
  }
  return { ways, declinationDeg, ladder, refusal, isLoading, selectedKey, selected, load, select, step }
})
