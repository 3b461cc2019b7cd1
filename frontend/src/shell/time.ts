import type { Schema } from '@/api/client'

type ZoneAhead = Schema<'ZoneAhead'>
const MINUTE_MS = 60_000
const WEEKDAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const FIGURES = { year: 'numeric', month: '2-digit', day: '2-digit', hour: '2-digit', minute: '2-digit' } as const
const made = new Map<string, Intl.DateTimeFormat>()
let told: ZoneAhead | null = null

/** Take over how far a zone is ahead: what lies in that time is told by adding, long before a writer would be made. */
export function tellAhead (ahead: ZoneAhead | null) {
  told = ahead
}

/** `2027-02-13 17:10` in a zone; its writer is made once, for making it takes longer than all that is written with it. */
function inZone (moment: Date, zone: string): string {
  const at = moment.getTime()
  if (told?.zone === zone && at >= Date.parse(told.start_utc) && at <= Date.parse(told.end_utc)) {
    return new Date(at + told.ahead_s * 1000).toISOString().slice(0, 16).replace('T', ' ')
  }
  let format = made.get(zone)
  if (!format) made.set(zone, format = new Intl.DateTimeFormat('sv-SE', { ...FIGURES, timeZone: zone }))
  return format.format(moment)
}

/** The zone this machine is set to. */
export const ownZone = () => Intl.DateTimeFormat().resolvedOptions().timeZone

/** Whether a note knows the time of where it was written; without a zone it is told in the world's, and called so. */
export const isOwnTime = (zone: string | null | undefined) => !!zone && zone !== 'UTC'

/** `HH:MM` of a moment in a zone, to the nearest minute. */
export function clockTime (utc: string | null | undefined, zone: string): string {
  if (!utc) return '–'
  return inZone(new Date(Math.round(Date.parse(utc) / MINUTE_MS) * MINUTE_MS), zone).slice(11)
}

/** `Sat 13 Feb` of a calendar date. */
export function dayWords (date: string): string {
  const day = new Date(`${date}T12:00:00Z`)
  return `${WEEKDAYS[day.getUTCDay()]} ${day.getUTCDate()} ${MONTHS[day.getUTCMonth()]}`
}

/** `Sat 13 Feb 2027` of a moment in a zone. */
export function dateWords (utc: string, zone: string): string {
  const date = inZone(new Date(utc), zone).slice(0, 10)
  return `${dayWords(date)} ${date.slice(0, 4)}`
}

/** `2027-02-13T17:10` of a moment in a zone, as typed into a form. */
export function localStamp (utc: string, zone: string): string {
  return inZone(new Date(utc), zone).replace(' ', 'T')
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
