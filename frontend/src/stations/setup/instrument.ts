import { computed, onScopeDispose, shallowRef } from 'vue'
import type { Schema } from '@/api/client'

export type Shown = Schema<'Shown'>

/** Listen to a live instrument; every reading arrives judged by the server. */
export function useInstrument (kind: Shown['instrument'], open: (url: string) => EventSource = url => new EventSource(url)) {
  const shown = shallowRef<Shown | null>(null)
  const source = shallowRef<EventSource | null>(null)
  const isOn = computed(() => source.value !== null)
  const isUsable = computed(() => shown.value?.state === 'steady' || shown.value?.state === 'moving')
  function start () {
    if (source.value) return
    source.value = open(`/api/setup/instruments/${kind}/stream`)
    source.value.onmessage = event => {
      shown.value = JSON.parse(event.data) as Shown
    }
  }
  function stop () {
    source.value?.close()
    source.value = null
    shown.value = null
  }
  onScopeDispose(stop)
  return { shown, isOn, isUsable, start, stop }
}
