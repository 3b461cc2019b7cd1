import { defineStore } from 'pinia'
import { computed, onScopeDispose, shallowRef, watch } from 'vue'
import { useEvening } from './evening'

const TICK_MS = 500

/** The evening's clock as it goes on between two answers: real, held, or at the pace of a rehearsal. */
export const useTicking = defineStore('ticking', () => {
  const evening = useEvening()
  const nowMs = shallowRef(Date.now())
  let base = { evening: Date.now(), real: Date.now(), pace: 1 }
  const read = () => { nowMs.value = base.evening + (Date.now() - base.real) * base.pace }
  watch(() => evening.evening, now => {
    if (!now) return
    base = { evening: Date.parse(now.now_utc), real: Date.now(), pace: now.pace }
    read()
  }, { immediate: true })
  const ticking = setInterval(read, TICK_MS)
  // a lid that was closed may have slept through any number of ticks
  const onLook = () => { if (document.visibilityState === 'visible' && evening.evening) void evening.refresh() }
  document.addEventListener('visibilitychange', onLook)
  onScopeDispose(() => {
    clearInterval(ticking)
    document.removeEventListener('visibilitychange', onLook)
  })
  const nowUtc = computed(() => stamp(nowMs.value))
  return { nowMs, nowUtc }
})

/** A moment in whole seconds of UTC, as the server has it. */
export const stamp = (ms: number) => `${new Date(ms).toISOString().slice(0, 19)}Z`
