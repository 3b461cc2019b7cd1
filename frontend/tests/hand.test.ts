import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { call, Refusal } from '@/api/client'
import { CLICK_MS, LONGEST_MS, whenFree } from '@/api/hand'

const on = (name: string, what: Element) => what.dispatchEvent(new MouseEvent(name, { bubbles: true }))
function down (what: Element, isPrimary = true, button = 0) {
  what.dispatchEvent(Object.assign(new MouseEvent('pointerdown', { bubbles: true, button }), { isPrimary }))
}
/** What has come by now, in the order it came. */
function coming () {
  const came: unknown[] = []
  void call('/there').then(answer => came.push(answer))
  void call('/refused').catch((error: unknown) => came.push(error instanceof Refusal && error.words))
  whenFree(() => came.push('a reading'))
  return came
}
const ALL = ['a reading', { it: 'is here' }, 'No.']

describe('a control that is held down', () => {
  beforeEach(() => {
    vi.useFakeTimers()
    document.body.innerHTML = '<button><svg><path /></svg></button><svg role="slider"><path /></svg><input>'
    vi.stubGlobal('fetch', async (path: string) => path.endsWith('there')
      ? new Response('{"it": "is here"}')
      : new Response('{"detail": "No."}', { status: 422 }))
  })
  afterEach(async () => {
    await vi.advanceTimersByTimeAsync(LONGEST_MS)
    vi.useRealTimers()
    vi.unstubAllGlobals()
  })
  const find = (selector: string) => document.querySelector(selector) as Element
  const pass = (ms: number) => vi.advanceTimersByTimeAsync(ms)

  it('is left where it is until it was clicked', async () => {
    down(find('button path'))
    const came = coming()
    find('input').dispatchEvent(new FocusEvent('blur'))
    await pass(LONGEST_MS - 1)
    expect(came).toEqual([])
    on('pointerup', find('button path'))
    await pass(CLICK_MS - 1)
    expect(came).toEqual([])
    on('click', find('button path'))
    expect(came).toEqual([])
    await pass(0)
    expect(came).toEqual(expect.arrayContaining(ALL))
  })

  it.each(['pointerup', 'pointercancel'])('waits no longer than for a click after %s', async name => {
    down(find('input'))
    const came = coming()
    on(name, find('input'))
    await pass(CLICK_MS)
    expect(came).toEqual(expect.arrayContaining(ALL))
  })

  it('holds nothing back for ever, and nothing back once its window is left', async () => {
    down(find('button'))
    const came = coming()
    await pass(LONGEST_MS)
    expect(came).toEqual(expect.arrayContaining(ALL))
    down(find('button'))
    const others = coming()
    window.dispatchEvent(new FocusEvent('blur'))
    await pass(0)
    expect(others).toEqual(expect.arrayContaining(ALL))
  })

  it('is no drawing, no second finger and no other button', async () => {
    down(find('svg[role=slider] path'))
    down(find('button'), false)
    down(find('button'), true, 2)
    const came = coming()
    await pass(0)
    expect(came).toEqual(expect.arrayContaining(ALL))
  })
})
