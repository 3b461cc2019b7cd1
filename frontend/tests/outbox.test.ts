import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, expect, it, vi } from 'vitest'
import { useOutbox } from '@/stores/outbox'

const call = vi.hoisted(() => vi.fn<(path: string, options: { json: Record<string, unknown> }) => Promise<unknown>>())
vi.mock('@/api/client', async original => ({ ...await original<object>(), call }))

const letter = (key: string) => ({ key, path: '/press', rehearsal: '', json: { key, made_at_utc: '2027-02-13T19:00:00Z' } })
const told = () => call.mock.calls.map(([, { json }]) => [json.key, json.after_key])

beforeEach(() => {
  localStorage.clear()
  call.mockReset()
  setActivePinia(createPinia())
})

it('names the press taken before: of those that waited while it was on its way, and of later ones', async () => {
  let arrive = () => {}
  call.mockImplementationOnce(() => new Promise(done => { arrive = () => done({}) })).mockResolvedValue({})
  const outbox = useOutbox()
  outbox.add(letter('first'))
  outbox.add(letter('second'))
  outbox.add({ ...letter('a note'), path: '/notes', json: {} })
  await vi.waitFor(() => expect(told()).toEqual([['first', '']]))
  arrive()
  await vi.waitFor(() => expect(outbox.isEmpty).toBe(true))
  outbox.add(letter('third'))
  await vi.waitFor(() => expect(outbox.isEmpty).toBe(true))
  expect(told()).toEqual([['first', ''], ['second', 'first'], [undefined, undefined], ['third', 'second']])
})
