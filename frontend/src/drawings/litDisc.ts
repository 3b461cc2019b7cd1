/** Outline of the lit part of a disc of `radius` at the origin, `lit` from 0 to 1, the bright limb to the right. */
export function litPath (radius: number, lit: number): string {
  const bulge = Math.abs(1 - 2 * lit) * radius
  const sweep = lit > 0.5 ? 1 : 0
  return `M0 ${-radius}A${radius} ${radius} 0 0 1 0 ${radius}A${bulge} ${radius} 0 0 ${sweep} 0 ${-radius}z`
}
