import { amplifiers, diagonals, eyepieces, finders, lightFilters, mounts, telescopes } from '@/api/items'
import type { Items } from '@/api/client'
import type { Field } from '@/shell/fields'

const BARRELS = [
  { title: '0.965 in', value: '0.965' },
  { title: '1.25 in', value: '1.25' },
  { title: '2 in', value: '2' },
] as const

export const RING_ENDS = [
  { title: 'rear end (eye side)', value: 'rear' },
  { title: 'front end', value: 'front' },
] as const

const FINDER_SIDES = [
  { title: 'from above', value: 'up' },
  { title: 'from the left', value: 'left' },
  { title: 'from the right', value: 'right' },
] as const

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- one sheet serves every kind
type AnyItems = Items<any>
interface Kind {
  word: string
  plural: string
  items: AnyItems
  fields: readonly Field[]
  fresh: Record<string, unknown>
}

/** The kinds of kit: their words, their verbs, and the fields of their sheet. */
export const KINDS = {
  telescope: {
    word: 'telescope', plural: 'Telescopes', items: telescopes as AnyItems,
    fresh: { design: 'newtonian', focuser_barrel_in: '1.25', is_new: false },
    fields: [
      { key: 'name', label: 'Name', hint: 'What you call it.' },
      { key: 'aperture_mm', label: 'Aperture', unit: 'mm', hint: 'Clear diameter of the lens or mirror.' },
      { key: 'focal_length_mm', label: 'Focal length', unit: 'mm', hint: 'Printed by the focuser, often as F=…' },
      { key: 'design', label: 'Design', kinds: 'telescope' },
      { key: 'focuser_barrel_in', label: 'Focuser takes up to', options: BARRELS },
      { key: 'is_new', label: 'New to me: leave amplifiers off the ladder at first', flag: true },
      { key: 'obstruction_percent', label: 'Obstruction', unit: '%', optional: true, more: true, hint: 'Secondary mirror across, in percent of the aperture; empty is 0.' },
      { key: 'mount_id', label: 'Usual mount', from: 'mount', more: true },
      { key: 'diagonal_id', label: 'Usual diagonal', from: 'diagonal', more: true },
      { key: 'eyepiece_angle_deg', label: 'Eyepiece points to', unit: '°', more: true, hint: '0 is up, 90 to the right, seen from behind.' },
      { key: 'tube_length_mm', label: 'Tube length', unit: 'mm', measure: 'hand', more: true },
      { key: 'pivot_from_front_mm', label: 'Pivot, from the front end', unit: 'mm', measure: 'hand', more: true },
      { key: 'mass_kg', label: 'Mass of the tube', unit: 'kg', more: true },
      { key: 'mask_opening_mm', label: 'Small opening in the front cap', unit: 'mm', more: true },
      { key: 'transmission_percent', label: 'Light let through', unit: '%', more: true, hint: 'Empty: estimated by design.' },
      { key: 'printed_power', label: 'Largest power on the box', unit: '×', more: true },
    ],
  },
  eyepiece: {
    word: 'eyepiece', plural: 'Eyepieces', items: eyepieces as AnyItems, fresh: { barrel_in: '1.25' },
    fields: [
      { key: 'name', label: 'Name' },
      { key: 'focal_length_mm', label: 'Focal length', unit: 'mm', hint: 'The millimetres on its barrel, not a power. Of a zoom the long end.' },
      { key: 'apparent_field_deg', label: 'Apparent field', unit: '°', hint: 'Empty: not known; a plain one shows 40 to 60.' },
      { key: 'barrel_in', label: 'Barrel', options: BARRELS },
      { key: 'field_stop_mm', label: 'Field stop', unit: 'mm', more: true },
      { key: 'eye_relief_mm', label: 'Eye relief', unit: 'mm', more: true },
      { key: 'zoom_to_focal_length_mm', label: 'Zoom: short end', unit: 'mm', more: true },
      { key: 'zoom_to_apparent_field_deg', label: 'Zoom: apparent field there', unit: '°', more: true },
    ],
  },
  amplifier: {
    word: 'amplifier', plural: 'Amplifiers', items: amplifiers as AnyItems, fresh: { kind: 'barlow', barrel_in: '1.25' },
    fields: [
      { key: 'name', label: 'Name' },
      { key: 'factor', label: 'Factor', unit: '×' },
      {
        key: 'kind', label: 'Kind', options: [
          { title: 'Barlow', value: 'barlow' },
          { title: 'Telecentric', value: 'telecentric' },
        ],
      },
      { key: 'barrel_in', label: 'Barrel', options: BARRELS },
      { key: 'focal_length_mm', label: 'Its own focal length (if known)', unit: 'mm', hint: 'Without the minus; 60 to 75 mm for a short one.' },
    ],
  },
  diagonal: {
    word: 'diagonal', plural: 'Diagonals', items: diagonals as AnyItems, fresh: { kind: 'mirror', light_path_mm: '70', barrel_in: '1.25' },
    fields: [
      { key: 'name', label: 'Name' },
      {
        key: 'kind', label: 'Kind', options: [
          { title: 'Mirror (mirrored view)', value: 'mirror' },
          { title: 'Correct-image prism', value: 'correct_image' },
        ],
      },
      { key: 'light_path_mm', label: 'Light path', unit: 'mm', hint: 'About 70 for 1.25 in, 110 for 2 in.' },
      { key: 'barrel_in', label: 'Barrel', options: BARRELS },
    ],
  },
  finder: {
    word: 'finder', plural: 'Finders', items: finders as AnyItems,
    fresh: { kind: 'straight', eyepiece_side: 'up' },
    fields: [
      { key: 'name', label: 'Name' },
      { key: 'kind', label: 'Kind', kinds: 'finder' },
      { key: 'telescope_id', label: 'Sits on', from: 'telescope' },
      { key: 'magnification', label: 'Power', unit: '×', hint: 'Empty: as usual for its kind.', more: true },
      { key: 'eyepiece_side', label: 'One looks into it', options: FINDER_SIDES, more: true, hint: 'Of a right-angle one, seen from behind.' },
      { key: 'field_deg', label: 'Field (if known)', unit: '°', more: true },
      { key: 'offset_mm', label: 'Distance from the main axis', unit: 'mm', measure: 'hand', more: true, hint: 'Empty: as usual for its kind.' },
      { key: 'clock_hour', label: 'Place on the tube', unit: "o'clock", more: true, hint: 'Seen from behind, 12 on top; empty: as usual.' },
      { key: 'screws', label: 'Adjusting screws', unit: 'screws', more: true, hint: 'Empty: as usual for its kind.' },
      { key: 'ring_end', label: 'The screws hold its', options: RING_ENDS, more: true },
      { key: 'first_screw_hour', label: 'One screw is at', unit: "o'clock", more: true },
      { key: 'lever_mm', label: 'From the screws to the other ring', unit: 'mm', measure: 'hand', more: true },
      { key: 'thread_pitch_mm', label: 'One turn of a screw moves', unit: 'mm', more: true },
    ],
  },
  mount: {
    word: 'mount', plural: 'Mounts', items: mounts as AnyItems, fresh: { kind: 'altaz', feet: '3', levelling: 'clamps' },
    fields: [
      { key: 'name', label: 'Name' },
      { key: 'kind', label: 'Kind', kinds: 'mount' },
      {
        key: 'levelling', label: 'Levelled by', options: [
          { title: 'Leg clamps', value: 'clamps' },
          { title: 'Foot screws', value: 'screws' },
          { title: 'Nothing', value: 'none' },
        ],
      },
      { key: 'feet', label: 'Feet', unit: 'feet', more: true },
      { key: 'foot_radius_mm', label: 'Circle of the feet, radius', unit: 'mm', measure: 'hand', more: true },
      { key: 'screw_pitch_mm', label: 'Height of one screw turn', unit: 'mm', more: true },
      { key: 'lowest_mm', label: 'Pivot, lowest', unit: 'mm', measure: 'hand', more: true },
      { key: 'highest_mm', label: 'Pivot, highest', unit: 'mm', measure: 'hand', more: true },
      { key: 'vial_sensitivity_arcmin', label: 'One division of its level', unit: '′', more: true },
    ],
  },
  light_filter: {
    word: 'filter', plural: 'Filters', items: lightFilters as AnyItems, fresh: { kind: 'moon', barrel_in: '1.25' },
    fields: [
      { key: 'name', label: 'Name' },
      {
        key: 'kind', label: 'Kind', options: [
          { title: 'Moon (grey)', value: 'moon' },
          { title: 'Colour', value: 'colour' },
          { title: 'Nebula', value: 'nebula' },
          { title: 'Solar, full aperture in front', value: 'solar_front' },
        ],
        hint: 'A solar filter goes in front of the whole aperture, never at the eyepiece. Follow its maker.',
      },
      { key: 'barrel_in', label: 'Barrel', options: [{ title: 'none, in front', value: '' }, ...BARRELS] },
      { key: 'note', label: 'Note', optional: true },
    ],
  },
} as const satisfies Record<string, Kind>

export type KindName = keyof typeof KINDS
export const KIND_NAMES = Object.keys(KINDS) as KindName[]
