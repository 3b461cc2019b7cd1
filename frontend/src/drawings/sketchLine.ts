/** How broad each pencil draws, in thousandths of the field's radius. */
export const PENCIL_WIDTH = { fine: 5, soft: 14, broad: 46 } as const

/** A line through points given right and up in turn; a single one is a dot. */
export function sketchLine (points: readonly number[]): string {
  const pairs: string[] = []
  for (let n = 0; n < points.length; n += 2) pairs.push(`${points[n]} ${-(points[n + 1] ?? 0)}`)
  return `M${pairs[0]}L${pairs.slice(pairs.length > 1 ? 1 : 0).join('L')}`
}
