import { useTemplateRef } from 'vue'
import { pointIn } from './compass'

export interface UsePointingReturn {
  onDown: (event: PointerEvent) => void
  onMove: (event: PointerEvent) => void
  onKey: (event: KeyboardEvent) => void
}

/** Point at the drawing whose template ref is `svg`: press, drag, or move by arrow keys; `point` gets places in the drawing's own units. */
export function usePointing (
  point: (place: { x: number, y: number }) => void, from: () => { x: number, y: number }, step: () => number,
): UsePointingReturn {
  const svg = useTemplateRef<SVGSVGElement>('svg')
  function onDown (event: PointerEvent) {
    if (!svg.value) return
    svg.value.setPointerCapture(event.pointerId)
    point(pointIn(svg.value, event))
  }
  function onMove (event: PointerEvent) {
    if (svg.value?.hasPointerCapture(event.pointerId)) point(pointIn(svg.value, event))
  }
  const WAYS: Record<string, [number, number]> = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }
  function onKey (event: KeyboardEvent) {
    const way = WAYS[event.key]
    if (!way) return
    event.preventDefault()
    const { x, y } = from()
    const size = step() * (event.shiftKey ? 0.25 : 1)
    point({ x: x + way[0] * size, y: y + way[1] * size })
  }
  return { onDown, onMove, onKey }
}
