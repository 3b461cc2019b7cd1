import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { Refusal, UNREACHABLE } from '@/api/client'
import { usePractice, type Run } from '@/stores/practice'

const call = vi.hoisted(() => vi.fn<(path: string, options?: { json?: unknown }) => Promise<unknown>>())
vi.mock('@/api/client', async original => ({ ...await original<object>(), call }))

const run = (number: number, values: Partial<Run> = {}) => ({ id: 4, number, at_s: 0, is_over: false, ...values }) as Run
const tap = { drill: 'level', kind: 'tap', foot: 1, amount: 0 } as const
const told = () => call.mock.calls.filter(([path]) => path.endsWith('/moves')).map(([, options]) => (options?.json as { number: number }).number)

beforeEach(() => {
  vi.useFakeTimers({ toFake: ['performance'] })
  call.mockReset()
  sessionStorage.clear()
  setActivePinia(createPinia())
})
afterEach(() => { vi.useRealTimers() })

async function inARound () {
  const practice = usePractice()
  call.mockResolvedValueOnce(run(0))
  await practice.open(4)
  return practice
}

it('tells moves in their order, each once the one before is made', async () => {
  const practice = await inARound()
  call.mockResolvedValueOnce(run(1)).mockResolvedValueOnce(run(2))
  practice.make(tap)
  practice.make(tap)
  await vi.waitFor(() => expect(practice.run?.number).toBe(2))
  expect(told()).toEqual([0, 1])
})

it('keeps a move nobody heard, and tells the same again', async () => {
  const practice = await inARound()
  call.mockRejectedValueOnce(new Refusal(UNREACHABLE)).mockResolvedValueOnce(run(1))
  practice.make(tap)
  await vi.waitFor(() => expect(practice.isHeld).toBe(true))
  await practice.tell()
  expect(told()).toEqual([0, 0])
  expect(practice.isHeld).toBe(false)
})

it('tells what nobody heard after a reload, by the number it had', async () => {
  const practice = await inARound()
  call.mockRejectedValueOnce(new Refusal(UNREACHABLE))
  practice.make(tap)
  await vi.waitFor(() => expect(practice.isHeld).toBe(true))
  setActivePinia(createPinia())
  const reloaded = usePractice()
  // it was heard after all, only its answer was lost
  call.mockResolvedValueOnce(run(1)).mockResolvedValueOnce(run(1))
  await reloaded.open(4)
  await vi.waitFor(() => expect(reloaded.waiting).toEqual([]))
  expect(told()).toEqual([0, 0])
})

it('looks again where another window moved first, and makes the refused move no more', async () => {
  const practice = await inARound()
  call.mockRejectedValueOnce(new Refusal({ ...UNREACHABLE, status: 409 })).mockResolvedValueOnce(run(3))
  practice.make(tap)
  await vi.waitFor(() => expect(practice.run?.number).toBe(3))
  expect(practice.waiting).toEqual([])
})

it('takes no answer about an earlier move, or about another round', async () => {
  const practice = await inARound()
  let arrive: (one: Run) => void = () => {}
  call.mockImplementationOnce(() => new Promise(done => { arrive = done as typeof arrive }))
  const late = practice.open(4)
  call.mockResolvedValueOnce(run(1))
  practice.make(tap)
  await vi.waitFor(() => expect(practice.run?.number).toBe(1))
  arrive(run(0))
  await late
  expect(practice.run?.number).toBe(1)
})

it('has a clock that stands while nobody looks at the page', async () => {
  const practice = await inARound()
  const look = (state: string) => {
    vi.spyOn(document, 'visibilityState', 'get').mockReturnValue(state as DocumentVisibilityState)
    document.dispatchEvent(new Event('visibilitychange'))
  }
  vi.advanceTimersByTime(2000)
  expect(practice.atS()).toBeCloseTo(2)
  look('hidden')
  vi.advanceTimersByTime(600_000)
  look('visible')
  vi.advanceTimersByTime(1000)
  expect(practice.atS()).toBeCloseTo(3)
  vi.restoreAllMocks()
})
