import type { Telescope } from '@/api/items'

/** A side view in mm, the front at x = 0, the axis at y = 0. */
export interface TelescopeShape {
  length_mm: number
  /** How far the front end reaches before x = 0. */
  front_mm: number
  outlines: string[]
  half_height_mm: number
}

const TUBE_WALL = 1.14 // outer tube over aperture
const FOLDED = 0.28 // tube over focal length of a folded design
const FOCUSER_MM = 32 // half the width of a drawn focuser

/** Outlines of a telescope by its design; lengths come from its numbers, the rest is only drawn. */
export function telescopeShape (telescope: Telescope): TelescopeShape {
  const { aperture_mm, focal_length_mm, design } = telescope
  const half = aperture_mm * TUBE_WALL / 2
  if (design === 'refractor') {
    const tube = focal_length_mm * 0.86
    const thin = half * 0.62
    return {
      length_mm: focal_length_mm + 60 + aperture_mm * 0.5,
      front_mm: aperture_mm * 0.5,
      half_height_mm: half * 1.15,
      outlines: [
        box(-aperture_mm * 0.5, -half * 1.15, aperture_mm * 0.9, half * 2.3),
        box(aperture_mm * 0.4, -half * 0.92, tube - aperture_mm * 0.4, half * 1.84),
        box(tube, -thin, focal_length_mm - tube, thin * 2),
        box(focal_length_mm, -thin * 0.6, 60, thin * 1.2),
      ],
    }
  }
  if (design === 'newtonian') {
    const tube = focal_length_mm * 0.96
    return {
      length_mm: tube,
      front_mm: 0,
      half_height_mm: half + 80,
      outlines: [
        box(0, -half, tube, half * 2),
        box(aperture_mm * 0.9 - FOCUSER_MM, -half - 52, FOCUSER_MM * 2, 52),
        box(aperture_mm * 0.9 - FOCUSER_MM * 0.7, -half - 80, FOCUSER_MM * 1.4, 28),
      ],
    }
  }
  const tube = Math.max(focal_length_mm * FOLDED, aperture_mm * 1.6)
  return {
    length_mm: tube + 75,
    front_mm: 0,
    half_height_mm: half,
    outlines: [
      box(0, -half, tube, half * 2),
      box(tube, -half * 0.5, 30, half),
      box(tube + 30, -FOCUSER_MM * 0.6, 45, FOCUSER_MM * 1.2),
    ],
  }
}

function box (x: number, y: number, width: number, height: number): string {
  return `M${x} ${y}h${width}v${height}h${-width}z`
}
