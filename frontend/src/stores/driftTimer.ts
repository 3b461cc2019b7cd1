import { defineStore } from 'pinia'
import { computed, onScopeDispose, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useNotices } from '@/shell/notices'
import { useEvening } from './evening'

type Drift = Schema<'DriftField'>
const TICK_MS = 250

/** Times a star from edge to edge; the start is kept by the server, so every page shows the same and a closed lid stops nothing. */
export const useDriftTimer = defineStore('driftTimer', () => {
  const evening = useEvening()
  const notices = useNotices()
  const nowMs = shallowRef(Date.now())
  const result = shallowRef<Drift | null>(null)
  let ticking: ReturnType<typeof setInterval> | undefined

  const startedMs = computed(() => {
    const at = evening.evening?.drift_started_at_utc
    return at ? Date.parse(at) : null
  })
  const isRunning = computed(() => startedMs.value !== null)
  const elapsedS = computed(() => startedMs.value === null ? 0 : Math.max(0, (nowMs.value - startedMs.value) / 1000))
  watch(isRunning, now => {
    clearInterval(ticking)
    nowMs.value = Date.now()
    if (now) ticking = setInterval(() => { nowMs.value = Date.now() }, TICK_MS)
  }, { immediate: true })
  onScopeDispose(() => clearInterval(ticking))

  /** Start, or stop at the edge; `fromCentre` where it began in the middle, so that it went half the way. */
  async function toggle (fromCentre = false) {
    try {
      if (isRunning.value) result.value = await call<Drift>(`/powers/drift/stop${fromCentre ? '?from_centre=true' : ''}`, { method: 'POST' })
      else {
        result.value = null
        await call('/powers/drift/start', { method: 'POST' })
      }
    } catch (error) {
      notices.say((error as Error).message)
    }
    await evening.refresh()
  }
  return { isRunning, elapsedS, result, toggle }
})
