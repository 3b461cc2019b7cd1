import { afterEach, describe, expect, it } from 'vitest'
import { clockTime, dateWords, fromLocalStamp, localStamp, tellAhead } from '@/shell/time'

const ZONE = 'America/St_Johns'
/** The night before clocks go forward there, at 05:30 UTC of the 14th. */
const AHEAD = { zone: ZONE, start_utc: '2027-03-12T05:30:00Z', end_utc: '2027-03-14T05:00:00Z', ahead_s: -12_600 }

/** Everything told of a moment. */
const told = (utc: string) =>
  [clockTime(utc, ZONE), dateWords(utc, ZONE), localStamp(utc, ZONE), fromLocalStamp(localStamp(utc, ZONE), ZONE)]

describe('the time of a zone', () => {
  afterEach(() => tellAhead(null))

  it.each([
    '2027-03-12T05:29:59Z', '2027-03-12T05:30:00Z', '2027-03-13T02:14:29.6Z', '2027-03-13T23:59:30Z', '2027-03-14T05:00:00Z',
    '2027-03-14T05:30:00Z', '2027-07-01T12:00:00Z',
  ])('%s is told the same by adding as by the zones of the world', utc => {
    const slowly = told(utc)
    tellAhead(AHEAD)
    expect(told(utc)).toEqual(slowly)
  })

  it('of another zone is not told by it', () => {
    tellAhead(AHEAD)
    expect(clockTime('2027-03-13T12:00:00Z', 'Asia/Kathmandu')).toBe('17:45')
  })

  it('is told by it', () => {
    tellAhead({ ...AHEAD, ahead_s: 0 })
    expect(clockTime('2027-03-13T12:00:00Z', ZONE)).toBe('12:00')
  })
})
