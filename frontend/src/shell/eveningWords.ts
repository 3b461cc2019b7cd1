import type { Evening } from '@/stores/evening'
import { clockTime, dayWords } from './time'

/** The evening in one line: day, place, dark window, Moon. Null without a place. */
export function eveningWords (evening: Evening | null): { day: string, rest: string } | null {
  if (!evening?.site || !evening.night) return null
  const { night, site } = evening
  return {
    day: dayWords(night.date),
    rest: [site.name, darkWords(evening), moonWords(evening)].join(' · '),
  }
}

function darkWords (evening: Evening): string {
  const { night, site } = evening
  const zone = site?.zone ?? 'UTC'
  const window = night?.dark[0]
  if (!night || !window) return night?.dark_words ?? ''
  if (!window.starts && !window.ends) return 'dark all day'
  return `dark ${clockTime(window.start_utc, zone)}–${clockTime(window.end_utc, zone)}`
}

/** `Moon 42 % sets 01:58`, or what the Moon does instead. */
export function moonWords (evening: Evening): string {
  const { night, site } = evening
  const moon = night?.bodies.find(body => body.body === 'moon')
  if (!night || !moon || !site) return ''
  const lit = `Moon ${night.moon_lit_percent.toFixed(0)} %`
  if (moon.horizon === 'never sets') return `${lit} up all night`
  const dusk = night.sunset_utc ?? night.start_utc
  const next = moon.up
    .flatMap(span => [
      { at: span.start_utc, verb: 'rises', is: span.starts },
      { at: span.end_utc, verb: 'sets', is: span.ends },
    ])
    .find(event => event.is && event.at >= dusk)
  return next ? `${lit} ${next.verb} ${clockTime(next.at, site.zone)}` : `${lit} below the horizon`
}
