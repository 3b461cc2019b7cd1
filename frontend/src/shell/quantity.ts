/** Numbers as people type them, in the unit a field is kept in. Text that is no such number is null, and goes to the server as it is. */

const MM_PER: Record<string, number> = { mm: 1, cm: 10, m: 1000, km: 1e6, in: 25.4, '"': 25.4, inch: 25.4, inches: 25.4, ft: 304.8, "'": 304.8, feet: 304.8 }
const M_S_PER: Record<string, number> = { 'm/s': 1, mph: 0.44704, 'km/h': 1 / 3.6, kn: 1852 / 3600, kt: 1852 / 3600 }
const G_PER: Record<string, number> = { g: 1, kg: 1000, lb: 453.59237, oz: 28.349523125 }
const NUMBER = String.raw`[-+]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[-+]?\d+)?`
const PART = String.raw`(\d+(?:\.\d*)?|\.\d+)`
/** Degrees, minutes, seconds: what comes after the degrees is set off by their sign or a space. */
const ANGLE = new RegExp(String.raw`^([-+]?)(?:${PART}\s*(?:°|\s(?=[\d.])|(?=[NSEW]?$)|(?=\s*(?:up|high|[NSEW])$)))?\s*(?:${PART}\s*')?\s*(?:${PART}\s*")?\s*([NSEW]|up|high)?$`, 'i')
const DIGITS = 10
/** A long number in groups of three, with any kind of space between them: `1 650`. */
const GROUPS = /(?<![\d.,])\d{1,3}(?:\s\d{3})+(?![\d])/g
const MINUTES_PER: Record<string, number> = { s: 1 / 60, sec: 1 / 60, min: 1, m: 1, "'": 1, h: 60, hours: 60 }
/** Units as a field names them, that people also write otherwise. */
const SAME: Record<string, readonly string[]> = {
  '×': ['x', 'times', 'fold'], 'g': ['gram', 'grams'], 'years': ['y', 'year', 'yr'], 'dpt': ['d', 'dioptres', 'diopters'], 'mag': ['m', 'magnitude'],
  '′': ["'", 'arcmin', 'min'], '″': ['"', 'arcsec'], '%': ['percent'], 'days': ['d', 'day'], 'div': ['divisions', 'division'], 'turns': ['turn'],
}

/** Minus signs, primes and a decimal comma as a computer writes them. */
function plain (text: string): string {
  const signs = text.trim().replace(/[−–]/g, '-').replace(/[′’]/g, "'").replace(/[″”]/g, '"').replace(GROUPS, group => group.replace(/\s/g, ''))
  return /^[^.,]*,[^.,]*$/.test(signs) ? signs.replace(',', '.') : signs
}
const short = (value: number) => String(Number(value.toPrecision(DIGITS)))

/** Degrees with minutes and seconds of arc, and a letter for the side of the world: `48° 42′`, `8.1 W`. */
function degrees (text: string): number | null {
  const match = ANGLE.exec(text)
  if (!match || match.slice(2, 5).every(part => part === undefined)) return null
  const [, sign, whole, minutes, seconds, side] = match
  if (Number(minutes ?? 0) >= 60 || Number(seconds ?? 0) >= 60) return null
  const size = Number(whole ?? 0) + Number(minutes ?? 0) / 60 + Number(seconds ?? 0) / 3600
  return size * (sign === '-' ? -1 : 1) * (/^[SW]$/i.test(side ?? '') ? -1 : 1)
}

/** Feet and inches together: `5 ft 2 in`, `5' 2"`. */
function feetAndInches (text: string): number | null {
  const match = /^(\d+)\s*(?:ft|feet|')\s*(\d+(?:\.\d*)?)\s*(?:in|inch|inches|")?$/.exec(text)
  return match ? Number(match[1]) * MM_PER.ft! + Number(match[2]) * MM_PER.in! : null
}

/** A typed number in the unit a field is kept in, as text; null for what is no number in a unit that fits. */
export function readNumber (typed: string, unit: string, typedUnit = unit): string | null {
  const text = plain(typed)
  if (new RegExp(`^${NUMBER}$`, 'i').test(text)) return typedUnit === unit ? text : convert(Number(text), typedUnit, unit)
  if (/^°(?![CF])/.test(unit)) {
    const found = degrees(text)
    return found === null ? null : short(found)
  }
  if (unit === '′' && /['"°]/.test(text)) {
    const found = degrees(text)
    if (found !== null) return short(found * 60)
  }
  const both = unit in MM_PER ? feetAndInches(text.toLowerCase()) : null
  if (both !== null) return convert(both, 'mm', unit)
  const match = new RegExp(`^(${NUMBER})\\s*(\\S.*)$`, 'i').exec(text)
  if (!match) return null
  const [, number, given] = match as unknown as [string, string, string]
  const asNamed = given.toLowerCase().replace(/\.$/, '')
  if (asNamed === unit.toLowerCase() || SAME[unit]?.includes(asNamed)) return number
  if (unit === 'min' || unit === 's') {
    const minutes = MINUTES_PER[asNamed]
    return minutes === undefined ? null : short(Number(number) * minutes / MINUTES_PER[unit]!)
  }
  return convert(Number(number), given, unit)
}

/** A number from one unit to another, as text; null where the two do not measure the same. */
export function convert (value: number, from: string, to: string): string | null {
  if (from === to) return short(value)
  const [a, b] = [MM_PER[from.toLowerCase()], MM_PER[to]]
  if (a && b) return short(value * a / b)
  const [heavy, light] = [G_PER[from.toLowerCase()], G_PER[to]]
  if (heavy && light) return short(value * heavy / light)
  const [fast, other] = [M_S_PER[from.toLowerCase()], M_S_PER[to]]
  if (fast && other) return short(value * fast / other)
  const [one, two] = [from.replace('°', '').toUpperCase(), to.replace('°', '').toUpperCase()]
  if (one === two && 'CF'.includes(one)) return short(value)
  if (one === 'F' && two === 'C') return short((value - 32) * 5 / 9)
  if (one === 'C' && two === 'F') return short(value * 9 / 5 + 32)
  return null
}

/** What is kept, as it is shown: in another unit where people wish so, to a sensible number of digits. */
export function showNumber (kept: string, unit: string, shownUnit: string): string {
  const text = plain(kept)
  if (unit === shownUnit || !text || !Number.isFinite(Number(text))) return kept
  const shown = convert(Number(text), unit, shownUnit)
  return shown === null ? kept : String(Number(Number(shown).toFixed(2)))
}
