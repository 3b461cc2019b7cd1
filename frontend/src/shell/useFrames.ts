import { onBeforeUnmount, watch } from 'vue'
import { useRegime } from './regime'

/** So often something that moves by itself is drawn where movement is unwanted. */
const CALM_MS = 500

/** Call `draw` with every frame while `isMoving`; twice a second in the dark, or where less movement is wished for. */
export function useFrames (isMoving: () => boolean, draw: () => void) {
  const regime = useRegime()
  const isCalm = () => regime.regime === 'dark' || matchMedia('(prefers-reduced-motion: reduce)').matches
  let frame = 0
  let timer: ReturnType<typeof setTimeout> | undefined
  function next () {
    cancelAnimationFrame(frame)
    clearTimeout(timer)
    draw()
    if (!isMoving()) return
    if (isCalm()) timer = setTimeout(next, CALM_MS)
    else frame = requestAnimationFrame(next)
  }
  watch(isMoving, next, { immediate: true })
  onBeforeUnmount(() => {
    cancelAnimationFrame(frame)
    clearTimeout(timer)
  })
  return { next }
}
