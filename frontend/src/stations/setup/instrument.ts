import { computed, onScopeDispose, shallowRef } from 'vue'
import type { Schema } from '@/api/client'
import { useEvents } from '@/stores/events'

export type Shown = Schema<'Shown'>

/** Listen to a live instrument over this browser's one stream; every reading arrives judged by the server. */
export function useInstrument (kind: Shown['instrument']) {
  const events = useEvents()
  const shown = shallowRef<Shown | null>(null)
  const leave = shallowRef<(() => void) | null>(null)
  const isOn = computed(() => leave.value !== null)
  const isUsable = computed(() => shown.value?.state === 'steady' || shown.value?.state === 'moving')
  function start () {
    leave.value ??= events.onReadings(kind, now => { shown.value = now })
  }
  function stop () {
    leave.value?.()
    leave.value = null
    shown.value = null
  }
  onScopeDispose(stop)
  return { shown, isOn, isUsable, start, stop }
}
