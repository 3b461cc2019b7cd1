import type { Schema } from '@/api/client'
import type { Finder, Telescope } from '@/api/items'

type TubeShape = Schema<'TubeShape'>

/** A side view in mm: the front end at x = 0, the optical axis at y = 0, up is negative. */
export interface TelescopeShape {
  length_mm: number
  above_mm: number
  below_mm: number
  outlines: string[]
  finders: string[]
  pivot_mm: number | null
}

const TUBE_WALL = 1.14 // outer tube over aperture
const FOCUSER_MM = 32 // half the width of a drawn focuser
const FINDER_LENGTH_MM: Record<string, number> = { straight: 190, right_angle: 170, right_angle_correct: 170, dot: 95, ring: 60 }
const FINDER_HALF_MM: Record<string, number> = { straight: 19, right_angle: 19, right_angle_correct: 19, dot: 15, ring: 22 }

/** Outlines of a telescope: lengths and places come from its numbers, where they are known. */
export function telescopeShape (telescope: Telescope, along: TubeShape, finders: readonly Finder[]): TelescopeShape {
  const tube = tubeShape(telescope, along)
  const mounted = finders.map(finder => finderOutline(finder, telescope, tube.eyepiece_mm))
  const highest = Math.max(tube.above_mm, ...mounted.map(one => one.above_mm))
  return {
    length_mm: tube.length_mm,
    above_mm: highest,
    below_mm: tube.below_mm,
    outlines: tube.outlines,
    finders: mounted.map(one => one.outline),
    pivot_mm: telescope.pivot_from_front_mm ?? null,
  }
}

interface Tube {
  length_mm: number
  above_mm: number
  below_mm: number
  /** Where along the tube the eyepiece is. */
  eyepiece_mm: number
  outlines: string[]
}

function tubeShape (telescope: Telescope, along: TubeShape): Tube {
  const { aperture_mm, design } = telescope
  const whole = along.length_mm
  const half = aperture_mm * TUBE_WALL / 2
  if (design === 'refractor') {
    const shield = Math.min(aperture_mm * 1.4, whole * 0.3)
    const thin = half * 0.62
    return {
      length_mm: whole + 60, above_mm: half * 1.15, below_mm: half * 1.15, eyepiece_mm: whole,
      outlines: [
        box(0, -half * 1.15, shield, half * 2.3),
        box(shield, -half * 0.92, whole * 0.82 - shield, half * 1.84),
        box(whole * 0.82, -thin, whole * 0.18, thin * 2),
        box(whole, -thin * 0.6, 60, thin * 1.2),
      ],
    }
  }
  if (design === 'newtonian') {
    const at = along.eyepiece_from_front_mm
    return {
      length_mm: whole, above_mm: half + 80, below_mm: half, eyepiece_mm: at,
      outlines: [
        box(0, -half, whole, half * 2),
        box(at - FOCUSER_MM, -half - 52, FOCUSER_MM * 2, 52),
        box(at - FOCUSER_MM * 0.7, -half - 80, FOCUSER_MM * 1.4, 28),
      ],
    }
  }
  return {
    length_mm: whole + 75, above_mm: half, below_mm: half, eyepiece_mm: whole,
    outlines: [
      box(0, -half, whole, half * 2),
      box(whole, -half * 0.5, 30, half),
      box(whole + 30, -FOCUSER_MM * 0.6, 45, FOCUSER_MM * 1.2),
    ],
  }
}

function finderOutline (finder: Finder, telescope: Telescope, eyepiece_mm: number) {
  const length = FINDER_LENGTH_MM[finder.kind ?? ''] ?? 150
  const half = FINDER_HALF_MM[finder.kind ?? ''] ?? 19
  const turn = (finder.clock_hour ?? 10) / 12 * 2 * Math.PI
  const height = (finder.offset_mm ?? 100) * Math.cos(turn)
  const ahead = telescope.design === 'newtonian' ? eyepiece_mm + FOCUSER_MM + 40 : eyepiece_mm * 0.62
  return { outline: box(ahead, -height - half, length, half * 2), above_mm: height + half }
}

function box (x: number, y: number, width: number, height: number): string {
  return `M${x} ${y}h${width}v${height}h${-width}z`
}
