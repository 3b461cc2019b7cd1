export interface Dot { key: string, label: string, x: number, y: number, sun: boolean }
export interface Named extends Dot { word_x: number, word_y: number }
const DOT = 9
const LETTER = 8
const LINE = 17

/** Give each dot a spot for its word that meets no dot and no other word; where there is none it goes without. */
export function besideDots (dots: readonly Dot[], width: number): Named[] {
  const written = dots.map(dot => ({ x: dot.x - DOT, y: dot.y, width: DOT * 2 }))
  return dots.map(dot => {
    const width_px = dot.label.length * LETTER
    const spots = [0, LINE, -LINE].flatMap(shift => [
      { x: dot.x + DOT + 3, y: dot.y + shift, width: width_px },
      { x: dot.x - DOT - 3 - width_px, y: dot.y + shift, width: width_px },
    ]).filter(spot => spot.x > 0 && spot.x + width_px < width)
    const spot = dot.label ? spots.find(one => written.every(other =>
      Math.abs(other.y - one.y) >= LINE - 2 || other.x + other.width < one.x || other.x > one.x + width_px)) : undefined
    if (!spot) return { ...dot, label: '', word_x: 0, word_y: 0 }
    written.push(spot)
    return { ...dot, word_x: spot.x, word_y: spot.y }
  })
}
