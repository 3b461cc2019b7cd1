import { computed, onScopeDispose, shallowRef, watch } from 'vue'
import type { Schema } from '@/api/client'
import { useEvents } from '@/stores/events'

export type Shown = Schema<'Shown'>

/** Listen to a live instrument over this browser's one stream; every reading arrives judged by the server. */
export function useInstrument (kind: Shown['instrument']) {
  const events = useEvents()
  const shown = shallowRef<Shown | null>(null)
  /** The reading to act on: one a window once it has settled, by the readings' own count. */
  const settled = shallowRef<Shown | null>(null)
  const leave = shallowRef<(() => void) | null>(null)
  const isOn = computed(() => leave.value !== null)
  function hear (now: Shown) {
    shown.value = now
    if (now.state === 'silent' || !now.settled) settled.value = null
    else if (now.state === 'steady' && now.settled !== settled.value?.settled) settled.value = now
  }
  /** Nothing comes any more: what it read last is not what it reads now. */
  const isLost = computed(() => isOn.value && events.isLost)
  watch(isLost, now => {
    if (!now) return
    shown.value = null
    settled.value = null
  })
  function start () {
    leave.value ??= events.onReadings(kind, hear)
  }
  function stop () {
    leave.value?.()
    leave.value = null
    shown.value = null
    settled.value = null
  }
  onScopeDispose(stop)
  return { shown, settled, isOn, isLost, start, stop }
}
