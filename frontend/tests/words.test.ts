import { describe, expect, it } from 'vitest'
import { fitted, placeWords, WORD_GAP, type EdgeWord } from '@/drawings/ladder/words'

/** Numbers that look thrown, the same in every run. */
function dice (seed: number) {
  let state = seed
  return () => (state = (state * 16_807) % 2_147_483_647) / 2_147_483_647
}
const word = (key: string, y: number, more: Partial<EdgeWord> = {}): EdgeWord =>
  ({ key, words: key, y, top: y - 24, bottom: y + 24, weight: 1, kind: '', ...more })

describe('words at the edge of the ladder', () => {
  it('never lie over each other, however many there are', () => {
    for (let seed = 1; seed <= 60; seed++) {
      const roll = dice(seed)
      const wanted = Array.from({ length: 2 + Math.floor(roll() * 30) }, (_, n) =>
        word(`w${n}`, 20 + roll() * 460, { weight: Math.floor(roll() * 5), isOnLine: roll() < 0.5 }))
      const placed = placeWords(wanted, 14, 486).sort((a, b) => a.y - b.y)
      placed.slice(1).forEach((one, n) => expect(one.y - placed[n]!.y).toBeGreaterThanOrEqual(WORD_GAP - 1e-6))
      for (const one of placed) {
        expect(one.y).toBeGreaterThanOrEqual(one.top)
        expect(one.y).toBeLessThanOrEqual(one.bottom)
      }
    }
  })

  it('leave out what only makes sense under a word that has no room', () => {
    const placed = placeWords([
      word('limit', 100, { weight: 5 }), word('band', 104, { weight: 2, top: 102, bottom: 106 }), word('range', 120, { under: 'band' }),
    ], 0, 400)
    expect(placed.map(one => one.key)).toEqual(['limit'])
  })

  it('are not struck through by the line they stand over', () => {
    const placed = placeWords([word('band', 92, { weight: 1 }), word('limit', 100, { weight: 4, isOnLine: true })], 0, 400)
    expect(placed.find(one => one.key === 'limit')?.y).toBe(100)
  })
})

describe('a label cut to its room', () => {
  it.each([['7.5 mm + 2.5×', 200, '7.5 mm + 2.5×'], ['7.5 mm + 2.5×', 60, '7.5 mm…'], ['18 mm', 0, '1…']])('%s in %i px', (label, room, shown) => {
    expect(fitted(label, room, 7.5)).toBe(shown)
  })
})
