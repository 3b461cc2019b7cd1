/** A place in px for each value between two ends, and back; values beyond stand at the end. */
export interface Linear {
  (value: number): number
  invert: (place: number) => number
}

export function linear ([from, to]: readonly [number, number], [first, last]: readonly [number, number]): Linear {
  const share = (value: number, low: number, high: number) => high === low ? 0 : Math.min(1, Math.max(0, (value - low) / (high - low)))
  return Object.assign(
    (value: number) => first + share(value, from, to) * (last - first),
    { invert: (place: number) => from + share(place, first, last) * (to - from) },
  )
}
