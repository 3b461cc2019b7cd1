import type { Field } from './fields'

/** What a place is described by; the skyline and the domes of light are drawn, not typed into a field. */
export const SITE_FIELDS: readonly Field[] = [
  { key: 'name', label: 'Name of the place' },
  { key: 'zone', label: 'Time zone', zones: true, hint: 'Type part of a city to find another.' },
  { key: 'latitude_deg', label: 'Latitude', unit: '°', hint: 'North positive, south negative, as 48.7', more: true },
  { key: 'longitude_deg', label: 'Longitude', unit: '°', hint: 'East positive, west negative, as 8.1', more: true },
  { key: 'elevation_m', label: 'Elevation', unit: 'm', measure: 'ground', optional: true, more: true },
  { key: 'dark_sky_class', label: 'Dark-sky class (if known)', unit: '1–9', hint: '1 is the darkest place, 9 an inner city.', more: true },
  { key: 'naked_eye_limit_mag', label: 'Faintest star by eye (if looked for)', unit: 'mag', hint: 'Overhead, no Moon; wins over the class.', more: true },
  { key: 'sky_mpsas', label: 'Meter reading (if any)', unit: 'mag/″²', hint: 'Wins over both.', more: true },
]
