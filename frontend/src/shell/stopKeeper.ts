import { shallowRef } from 'vue'
import { eyepieces } from '@/api/items'
import type { Schema } from '@/api/client'
import { useAttempt } from '@/shell/useAsked'

type Drift = Schema<'DriftField'>

/** Keep the field stop that a drift gave with the eyepiece it was timed in. */
export function useStopKeeper () {
  const { refusal, once } = useAttempt()
  const kept = shallowRef<Drift | null>(null)
  async function keep (drift: Drift) {
    const { eyepiece, field_stop_mm } = drift
    if (!eyepiece?.id) return
    const id = eyepiece.id
    if (await once(() => eyepieces.change(id, { ...eyepiece, field_stop_mm }))) kept.value = drift
  }
  const isKept = (drift: Drift) => kept.value === drift
  return { refusal, keep, isKept }
}
