/** A point on a round dial: azimuth clockwise from up, distance from the middle. */
export function onDial (azimuthDeg: number, distance: number): { x: number, y: number } {
  const angle = azimuthDeg * Math.PI / 180
  return { x: Math.sin(angle) * distance, y: -Math.cos(angle) * distance }
}

/** The azimuth, 0 to 360, of a point seen from the middle of a dial. */
export function azimuthOf (x: number, y: number): number {
  return (Math.atan2(x, -y) * 180 / Math.PI + 360) % 360
}

/** Where a pointer is inside an SVG, in its own units. */
export function pointIn (svg: SVGSVGElement, event: PointerEvent): { x: number, y: number } {
  const matrix = svg.getScreenCTM()
  if (!matrix) return { x: 0, y: 0 }
  const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(matrix.inverse())
  return { x: point.x, y: point.y }
}

/** A ring sector between two azimuths, clockwise. */
export function sector (fromDeg: number, toDeg: number, inner: number, outer: number): string {
  const span = (toDeg - fromDeg + 360) % 360 || 360
  if (span >= 359.9) {
    const ring = (r: number, sweep: number) => `M0 ${-r}A${r} ${r} 0 1 ${sweep} 0 ${r}A${r} ${r} 0 1 ${sweep} 0 ${-r}z`
    return ring(outer, 1) + ring(inner, 0)
  }
  const large = span > 180 ? 1 : 0
  const a = onDial(fromDeg, outer), b = onDial(toDeg, outer), c = onDial(toDeg, inner), d = onDial(fromDeg, inner)
  return `M${a.x} ${a.y}A${outer} ${outer} 0 ${large} 1 ${b.x} ${b.y}L${c.x} ${c.y}A${inner} ${inner} 0 ${large} 0 ${d.x} ${d.y}z`
}

export const POINTS = [['N', 0], ['NE', 45], ['E', 90], ['SE', 135], ['S', 180], ['SW', 225], ['W', 270], ['NW', 315]] as const
