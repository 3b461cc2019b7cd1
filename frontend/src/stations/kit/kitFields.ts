import { amplifiers, eyepieces, telescopes } from '@/api/items'
import type { Items } from '@/api/client'
import type { Field } from '@/shell/fields'

const BARRELS = [
  { title: '0.965 in', value: '0.965' },
  { title: '1.25 in', value: '1.25' },
  { title: '2 in', value: '2' },
] as const

// eslint-disable-next-line @typescript-eslint/no-explicit-any -- one sheet serves every kind
type AnyItems = Items<any>
interface Kind {
  word: string
  items: AnyItems
  fields: readonly Field[]
  fresh: Record<string, unknown>
}

/** The kinds of kit: their words, their verbs, and the fields of their sheet. */
export const KINDS = {
  telescope: {
    word: 'telescope',
    items: telescopes as AnyItems,
    fresh: { design: 'newtonian', focuser_barrel_in: '1.25' },
    fields: [
      { key: 'name', label: 'Name', hint: 'What you call it.' },
      { key: 'aperture_mm', label: 'Aperture', unit: 'mm', hint: 'Clear diameter of the lens or mirror.' },
      { key: 'focal_length_mm', label: 'Focal length', unit: 'mm', hint: 'Printed by the focuser, often as F=…' },
      {
        key: 'design', label: 'Design', options: [
          { title: 'Refractor (lens)', value: 'refractor' },
          { title: 'Newtonian (mirror, eyepiece at the side)', value: 'newtonian' },
          { title: 'Catadioptric (short tube, eyepiece behind)', value: 'catadioptric' },
        ],
      },
      { key: 'obstruction_percent', label: 'Obstruction', unit: '%', optional: true, hint: 'Secondary mirror across, in percent of the aperture; empty is 0.' },
      { key: 'focuser_barrel_in', label: 'Focuser takes up to', options: BARRELS },
    ],
  },
  eyepiece: {
    word: 'eyepiece',
    items: eyepieces as AnyItems,
    fresh: { barrel_in: '1.25' },
    fields: [
      { key: 'name', label: 'Name' },
      { key: 'focal_length_mm', label: 'Focal length', unit: 'mm', hint: 'The millimetres on its barrel, not a power.' },
      { key: 'apparent_field_deg', label: 'Apparent field', unit: '°', hint: 'A plain one shows 40 to 60.' },
      { key: 'barrel_in', label: 'Barrel', options: BARRELS },
      { key: 'field_stop_mm', label: 'Field stop (if known)', unit: 'mm' },
      { key: 'eye_relief_mm', label: 'Eye relief (if known)', unit: 'mm' },
    ],
  },
  amplifier: {
    word: 'amplifier',
    items: amplifiers as AnyItems,
    fresh: { kind: 'barlow', barrel_in: '1.25' },
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
      { key: 'focal_length_mm', label: 'Its own focal length (if known)', unit: 'mm' },
    ],
  },
} as const satisfies Record<string, Kind>

export type KindName = keyof typeof KINDS
