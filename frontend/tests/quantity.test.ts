import { describe, expect, it } from 'vitest'
import { convert, readNumber, showNumber } from '@/shell/quantity'

describe('a number as people type it', () => {
  it.each([
    ['7,5', 'mm', '7.5'], [' 25 ', 'mm', '25'], ['25 mm', 'mm', '25'], ['2.5cm', 'mm', '25'], ['1 in', 'mm', '25.4'],
    ['−3,5', '°', '-3.5'], ['0,8 km', 'm', '800'], ['5 ft 2 in', 'mm', '1574.8'], ['5\' 2"', 'mm', '1574.8'],
    ['48° 42′', '°', '48.7'], ['48°42\'36"', '°', '48.71'], ['38° 54′ S', '°', '-38.9'], ['8.1 W', '°', '-8.1'], ['-0° 30′', '°', '-0.5'],
    ['50 °F', '°C', '10'], ['10 C', '°C', '10'], ['15 ×', '×', '15'], ['140 %', '%', '140'], ['1e2', 'mm', '1e2'],
    ['1 650 mm', 'mm', '1650'], ['12 500', 'm', '12500'], ['2′ 30″', '′', '2.5'], ['0,5°', '′', '30'], ['30"', '′', '0.5'], ['4,5', '′', '4.5'], ['−3\'', '′', '-3'],
    ['1 h', 'min', '60'], ['90 s', 'min', '1.5'], ['2 min', 's', '120'], ['1.2 kg', 'g', '1200'], ['12 x', '×', '12'], ['33° up', '° up', '33'], ['33 up', '° up', '33'], ['36"', '°', '0.01'], ['12′', '°', '0.2'], ['48 42′', '°', '48.7'], ['3 days', 'days', '3'],
  ])('%s in %s is %s', (typed, unit, kept) => {
    expect(readNumber(typed, unit)).toBe(kept)
  })

  it.each([
    ['twenty', 'mm'], ['', 'mm'], ['25 kg', 'mm'], ['1.234,5', 'mm'], ['48° 61′', '°'], ['10 mm', '°C'], ['7 5', 'mm'], ['1 65', 'mm'], ['25 mm mm', 'mm'], ['3 kg', 'min'], ['½', '×'],
  ])('%s in %s is no number, and goes to the server as it is', (typed, unit) => {
    expect(readNumber(typed, unit)).toBeNull()
  })

  it('is taken in the unit that is shown, and kept in its own', () => {
    expect(readNumber('10', 'mm', 'in')).toBe('254')
    expect(readNumber('41', '°C', '°F')).toBe('5')
    expect(readNumber('30 cm', 'mm', 'in')).toBe('300')
  })

  it('comes back as it was typed, through either unit', () => {
    for (const inches of ['1', '2.5', '61.02']) {
      const kept = readNumber(inches, 'mm', 'in')
      expect(Number(showNumber(kept ?? '', 'mm', 'in'))).toBeCloseTo(Number(inches), 2)
    }
  })

  it('does not convert what does not measure the same', () => {
    expect(convert(3, 'kg', 'mm')).toBeNull()
    expect(showNumber('many', 'mm', 'in')).toBe('many')
  })
})
