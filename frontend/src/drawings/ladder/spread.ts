/** A label that wants to stand at `y` and may be moved, or dropped if its `weight` is low. */
export interface Wanted {
  key: string
  y: number
  weight: number
}

/**
 * Places for labels that never overlap: moved apart by at least `gap`, inside `top` to `bottom`.
 * Where there is no room for all, those of the lowest weight are left out.
 */
export function spreadLabels (wanted: readonly Wanted[], gap: number, top: number, bottom: number): Map<string, number> {
  const room = Math.max(0, Math.floor((bottom - top) / gap) + 1)
  const kept = [...wanted].sort((a, b) => b.weight - a.weight).slice(0, room).sort((a, b) => a.y - b.y)
  const y = kept.map(label => Math.min(bottom, Math.max(top, label.y)))
  const at = (n: number) => y[n] ?? 0
  for (let n = 1; n < y.length; n++) y[n] = Math.max(at(n), at(n - 1) + gap)
  for (let n = y.length - 1, limit = bottom; n >= 0; n--) {
    y[n] = Math.min(at(n), limit)
    limit = at(n) - gap
  }
  return new Map(kept.map((label, n) => [label.key, at(n)]))
}
