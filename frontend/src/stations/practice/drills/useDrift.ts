import { computed, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import type { Schema } from '@/api/client'
import { useFrames } from '@/shell/useFrames'
import { usePractice } from '@/stores/practice'

/** Where a view's middle stands while the target goes on between two answers, and begins anew where it is told to. */
export function useDrift (view: MaybeRefOrGetter<Schema<'EyeView'>>, againS: MaybeRefOrGetter<number | null> = null) {
  const practice = usePractice()
  const nowS = shallowRef(0)
  const drift = computed(() => toValue(view).drift)
  const { next } = useFrames(() => Math.hypot(...drift.value) > 0, () => { nowS.value = practice.atS() })
  watch(() => toValue(view), next, { immediate: true })
  const centre = computed(() => {
    const since = Math.max(0, nowS.value - (practice.run?.at_s ?? 0)), again = toValue(againS)
    const minutes = (again ? since % again : since) / 60
    return toValue(view).centre.map((one, n) => one - (drift.value[n] ?? 0) * minutes)
  })
  return { centre, nowS }
}
