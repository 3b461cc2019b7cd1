import type { ScaleLinear } from 'd3-scale'
import type { Schema } from '@/api/client'

type Scale = ScaleLinear<number, number>
type Point = Schema<'SkylinePoint'>
const BEYOND = 40
export const POINTS = [
  ['N', 0], ['NE', 45], ['E', 90], ['SE', 135], ['S', 180], ['SW', 225], ['W', 270], ['NW', 315], ['N', 360],
] as const

/** The skyline as one filled shape down to the lower edge of the strip; level where none was drawn. */
export function skylinePath (points: readonly Point[], x: Scale, y: Scale): string {
  const deep = y(0) + 40
  const [first, last] = [points[0], points[points.length - 1]]
  let edge = 0
  if (first && last) {
    const span = first.azimuth_deg + 360 - last.azimuth_deg
    const share = span ? (360 - last.azimuth_deg) / span : 0
    edge = last.altitude_deg + share * (first.altitude_deg - last.altitude_deg)
  }
  const line = [{ azimuth_deg: 0, altitude_deg: edge }, ...points, { azimuth_deg: 360, altitude_deg: edge }]
  const drawn = line.map(point => `${x(point.azimuth_deg).toFixed(1)} ${y(point.altitude_deg).toFixed(1)}`)
  const [left, right] = [x(0) - BEYOND, x(360) + BEYOND]
  const level = y(edge).toFixed(1)
  return `M${left} ${deep}V${level}L${drawn.join('L')}L${right} ${level}V${deep}z`
}

/** A track cut where it goes through north, so that no line runs across the strip. */
export function pieces<T extends { azimuth_deg: number }> (track: readonly T[]): T[][] {
  const cut: T[][] = []
  let before: T | null = null
  for (const point of track) {
    if (!before || Math.abs(point.azimuth_deg - before.azimuth_deg) > 180) cut.push([])
    cut[cut.length - 1]!.push(point)
    before = point
  }
  return cut.filter(piece => piece.length > 1)
}
