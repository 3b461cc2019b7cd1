import { spreadLabels } from './spread'

/** Words at the right edge of the ladder: what a band is for, its exit pupils, where a limit lies, what a box claims. */
export interface EdgeWord {
  key: string
  words: string
  /** Where it wants to stand, and between what it means anything; it is left out rather than moved beyond. */
  y: number
  top: number
  bottom: number
  weight: number
  kind: string
  /** It stands over a line of its own, and is not to be struck through by it. */
  isOnLine?: boolean
  /** The word it only makes sense right under. */
  under?: string
}
/** Lines of words at the right stand so far apart, in px. */
export const WORD_GAP = 16
const NEAR = WORD_GAP + 3
/** So far under its place a word is clear of the line again. */
const LINE_ROOM = 17

/** The words that have room, each where it stands; none over another. */
export function placeWords (wanted: readonly EdgeWord[], top: number, bottom: number): EdgeWord[] {
  const wantedY = (one: EdgeWord) => wanted.find(other => other.key === one.key)?.y ?? one.y
  let kept = [...wanted]
  for (;;) {
    const places = spreadLabels(kept, WORD_GAP, top, bottom)
    const placed = kept.filter(one => places.has(one.key)).map(one => ({ ...one, y: places.get(one.key) ?? one.y }))
    const isRight = (one: EdgeWord) => {
      if (one.y < one.top || one.y > one.bottom) return false
      const above = one.under === undefined ? null : placed.find(other => other.key === one.under)
      return above === null || (!!above && one.y - above.y <= NEAR)
    }
    // a word pushed into the line it stands over makes room by what pushed it
    const pushing = (one: EdgeWord) => placed.filter(other => other.weight < one.weight && Math.abs(other.y - one.y) <= NEAR)
    const pushed = placed.filter(one => one.isOnLine && one.y - wantedY(one) > 2 && one.y - wantedY(one) < LINE_ROOM).flatMap(pushing)
    const wrong = [...placed.filter(one => !isRight(one)), ...pushed].sort((a, b) => a.weight - b.weight)[0]
    if (!wrong) return placed
    kept = placed.filter(one => one.key !== wrong.key).map(one => wanted.find(other => other.key === one.key) ?? one)
  }
}

/** A label cut where the room for it ends, in px at so many px a letter. */
export function fitted (label: string, roomPx: number, letterPx: number): string {
  const most = Math.max(2, Math.floor(roomPx / letterPx))
  return label.length <= most ? label : `${label.slice(0, most - 1).trimEnd()}…`
}
