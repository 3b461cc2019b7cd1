const MINUTE_MS = 60_000

/** `HH:MM` of a moment in a zone, to the nearest minute. */
export function clockTime (utc: string | null | undefined, zone: string): string {
  if (!utc) return '–'
  const rounded = new Date(Math.round(Date.parse(utc) / MINUTE_MS) * MINUTE_MS)
  return new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone: zone }).format(rounded)
}

/** `Sat 13 Feb` of a calendar date. */
export function dayWords (date: string): string {
  return new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', timeZone: 'UTC' })
    .format(new Date(`${date}T12:00:00Z`)).replace(',', '')
}

/** `Sat 13 Feb 2027` of a moment in a zone. */
export function dateWords (utc: string, zone: string): string {
  return new Intl.DateTimeFormat('en-GB', { weekday: 'short', day: 'numeric', month: 'short', year: 'numeric', timeZone: zone })
    .format(new Date(utc)).replace(',', '')
}

/** `2027-02-13T17:10` of a moment in a zone, as typed into a form. */
export function localStamp (utc: string, zone: string): string {
  const parts = new Intl.DateTimeFormat('sv-SE', {
    year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', minute: '2-digit', timeZone: zone,
  }).format(new Date(utc))
  return parts.replace(' ', 'T')
}

/** The moment, with its offset, that a clock in a zone shows as `2027-02-13T17:10`; unreadable text is returned as it is. */
export function fromLocalStamp (stamp: string, zone: string): string {
  const guess = Date.parse(`${stamp.trim().replace(' ', 'T')}:00Z`)
  if (Number.isNaN(guess)) return stamp
  const offset = Date.parse(`${localStamp(new Date(guess).toISOString(), zone)}:00Z`) - guess
  const corrected = guess - offset
  const again = Date.parse(`${localStamp(new Date(corrected).toISOString(), zone)}:00Z`) - corrected
  return new Date(guess - again).toISOString().replace('.000Z', 'Z')
}

/** `M:SS` of a time, with its unit; what has none never happens. */
export const minutesOrNever = (seconds: number | null) => seconds === null ? 'never' : `${minutesSeconds(seconds)} min`

/** `M:SS` of a number of seconds. */
export function minutesSeconds (seconds: number): string {
  const whole = Math.round(seconds)
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, '0')}`
}
