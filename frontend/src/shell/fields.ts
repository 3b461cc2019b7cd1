import type { Measure } from '@/stores/units'

/** One field of a form: what it is called, in which unit, and what may help. No limits here: the server knows them. */
export interface Field {
  key: string
  label: string
  unit?: string
  hint?: string
  options?: readonly { title: string, value: string | number }[]
  flag?: boolean
  /** What it measures, where people may wish another unit. */
  measure?: Measure
  /** The options are the kinds the server knows of. */
  kinds?: 'mount' | 'finder' | 'telescope'
  /** The options are all time zones, searched by typing. */
  zones?: boolean
  /** The options are the owned things of this kind, or none of them. */
  from?: 'mount' | 'diagonal' | 'telescope'
  /** Asked for only when somebody wants to say more. */
  more?: boolean
  /** Left out of the message when empty, so that the server's default holds. */
  optional?: boolean
}

/** The typed values as the server wants them: empty text is nothing, everything else goes as typed. */
export function asTyped (fields: readonly Field[], values: Record<string, unknown>): Record<string, unknown> {
  const entries = fields.map(({ key, optional }) => {
    const value = values[key]
    const text = typeof value === 'string' ? value.trim() : value
    return [key, text === '' || text === undefined ? (optional ? undefined : null) : text] as const
  })
  return Object.fromEntries(entries.filter(([, value]) => value !== undefined))
}

/** A stored item as the texts of a form. */
export function asText (fields: readonly Field[], item: object): Record<string, unknown> {
  const values = item as Record<string, unknown>
  return Object.fromEntries(fields.map(({ key, flag, options, from, kinds, zones }) => {
    const value = values[key]
    if (flag || options || from || kinds || zones) return [key, value]
    return [key, value === null || value === undefined ? '' : String(value)]
  }))
}
