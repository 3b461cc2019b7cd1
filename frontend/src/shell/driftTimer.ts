import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { call, type Schema } from '@/api/client'
import { useKept } from './kept'
import { useNotices } from './notices'

type Drift = Schema<'DriftField'>

/** Times a star from edge to edge; survives a closed lid because only the start is kept. */
export const useDriftTimer = defineStore('driftTimer', () => {
  const startedMs = useKept<number | null>('drift-started', null)
  const nowMs = shallowRef(Date.now())
  const result = shallowRef<Drift | null>(null)
  let ticking: ReturnType<typeof setInterval> | undefined

  const isRunning = computed(() => startedMs.value !== null)
  const elapsedS = computed(() => startedMs.value === null ? 0 : Math.max(0, (nowMs.value - startedMs.value) / 1000))

  function tick () {
    nowMs.value = Date.now()
    ticking ??= setInterval(() => { nowMs.value = Date.now() }, 250)
  }
  async function toggle () {
    if (startedMs.value === null) {
      result.value = null
      startedMs.value = Date.now()
      return tick()
    }
    const seconds = (Date.now() - startedMs.value) / 1000
    startedMs.value = null
    clearInterval(ticking)
    ticking = undefined
    try {
      result.value = await call<Drift>(`/powers/drift?elapsed_s=${seconds.toFixed(1)}`)
    } catch (error) {
      useNotices().say((error as Error).message)
    }
  }
  if (isRunning.value) tick()
  return { isRunning, elapsedS, result, toggle }
})
