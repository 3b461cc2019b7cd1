import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { canAskAgain, counted, LONG_MS, SHOWN_MS, slowness } from '@/api/pending'

/** Something that takes until it is told to end. */
function held () {
  let end = () => {}
  const work = () => new Promise<void>(done => { end = done })
  return { work, end: () => end() }
}

describe('what is asked and not answered', () => {
  beforeEach(() => { vi.useFakeTimers() })
  afterEach(() => { vi.useRealTimers() })

  it('is shown after half a second and called long after ten, by the slowest of all', async () => {
    const [slow, quick] = [held(), held()]
    const all = Promise.all([counted(true, slow.work), counted(true, quick.work)])
    expect(slowness.value).toBe('none')
    vi.advanceTimersByTime(SHOWN_MS + 2)
    expect(slowness.value).toBe('works')
    quick.end()
    await vi.advanceTimersByTimeAsync(LONG_MS)
    expect(slowness.value).toBe('long')
    expect(canAskAgain.value).toBe(true)
    slow.end()
    await all
    expect(slowness.value).toBe('none')
  })

  it('is not asked for again where something is being stored', async () => {
    const slow = held()
    const storing = counted(false, slow.work)
    vi.advanceTimersByTime(LONG_MS + 2)
    expect([slowness.value, canAskAgain.value]).toEqual(['long', false])
    slow.end()
    await storing
  })
})
