import { createPinia, setActivePinia } from 'pinia'
import { beforeEach, describe, expect, it, vi } from 'vitest'
import { Refusal } from '@/api/client'
import { inTurn } from '@/shell/turns'
import { useNotices } from '@/shell/notices'
import { sectionOf } from '@/shell/rules'
import { useAsked, useAttempt } from '@/shell/useAsked'
import { useParts } from '@/shell/useParts'

const changes = vi.hoisted(() => [] as (() => void)[])
const events = vi.hoisted(() => ({ isLost: false }))
vi.mock('@/stores/events', () => ({ useEvents: () => events, useTopics: (_: unknown, act: () => void) => { changes.push(act) } }))

const refusal = (detail: string) => new Refusal({ type: '', title: '', status: 422, detail, errors: [], stored: null })

const gone = new Refusal({ type: '', title: '', status: 0, detail: 'gone', errors: [], stored: null })

describe('parts that are asked for apart', () => {
  beforeEach(() => setActivePinia(createPinia()))
  const good = { title: 'the good', ask: async () => 'here' }

  it('shows the others and names the one that failed, until it answers', async () => {
    const ask = vi.fn<() => Promise<string>>().mockRejectedValueOnce(refusal('no')).mockResolvedValue('there')
    const parts = useParts<{ good: string, bad: string }>({ good, bad: { title: 'the bad', ask } })
    await parts.load()
    expect(parts.answer.value).toEqual({ good: 'here' })
    expect(parts.refusal.value?.words).toBe('Not shown as it is now: the bad. no')
    await parts.load()
    expect([parts.answer.value, parts.refusal.value]).toEqual([{ good: 'here', bad: 'there' }, null])
  })

  it('keeps everything as it was while nobody answers', async () => {
    const ask = vi.fn<() => Promise<string>>().mockResolvedValueOnce('kept').mockRejectedValueOnce(gone)
    const parts = useParts<{ good: string, bad: string }>({ good, bad: { title: 'the bad', ask } })
    await parts.load()
    await parts.load()
    expect(parts.answer.value).toEqual({ good: 'here', bad: 'kept' })
    expect(parts.refusal.value?.isUnanswered).toBe(true)
  })
})

describe('one loader', () => {
  beforeEach(() => setActivePinia(createPinia()))

  it('counts only the answer to the latest question', async () => {
    const answers: ((value: string) => void)[] = []
    const asked = useAsked(() => new Promise<string>(done => answers.push(done)))
    const both = [asked.load(), asked.load()]
    answers[1]?.('new')
    answers[0]?.('old')
    await Promise.all(both)
    expect(asked.answer.value).toBe('new')
  })

  it('hears every answer however often something changes, and asks once more at the end', async () => {
    const answers: ((value: string) => void)[] = []
    const asked = useAsked(() => new Promise<string>(done => answers.push(done)))
    asked.again()
    asked.again()
    asked.again()
    expect(answers).toHaveLength(1)
    answers[0]?.('first')
    await vi.waitFor(() => expect(answers).toHaveLength(2))
    expect(asked.answer.value).toBe('first')
    answers[1]?.('last')
    await vi.waitFor(() => expect(asked.answer.value).toBe('last'))
    expect(answers).toHaveLength(2)
  })

  it('asks again after a change only for what somebody asked for', async () => {
    const ask = vi.fn<() => Promise<string>>().mockResolvedValue('here')
    const asked = useAsked(ask, ['kit'])
    const change = changes.at(-1)!
    change()
    expect(ask).not.toHaveBeenCalled()
    await asked.load()
    change()
    await vi.waitFor(() => expect(ask).toHaveBeenCalledTimes(2))
  })

  it('keeps the last answer when the next is refused, and says why', async () => {
    const ask = vi.fn<() => Promise<string>>().mockResolvedValueOnce('kept').mockRejectedValueOnce(refusal('no'))
    const asked = useAsked(ask)
    await asked.load()
    await asked.load()
    expect([asked.answer.value, asked.refusal.value?.words]).toEqual(['kept', 'no'])
  })

  it('leaves it to the page to say that nobody answers, and asks again once somebody does', async () => {
    const ask = vi.fn<() => Promise<string>>().mockResolvedValueOnce('old').mockRejectedValueOnce(gone).mockResolvedValue('new')
    const asked = useAsked(ask)
    const back = changes.at(-1)!
    await asked.load()
    back()
    expect(ask).toHaveBeenCalledTimes(1)
    events.isLost = true
    await asked.load()
    expect([asked.answer.value, asked.refusal.value]).toEqual(['old', null])
    events.isLost = false
    back()
    await vi.waitFor(() => expect(asked.answer.value).toBe('new'))
  })

  it('says that it is loading after half a second, not before', async () => {
    vi.useFakeTimers()
    const answers: ((value: string) => void)[] = []
    const asked = useAsked(() => new Promise<string>(done => answers.push(done)))
    const done = asked.load()
    vi.advanceTimersByTime(499)
    expect(asked.isLoading.value).toBe(false)
    vi.advanceTimersByTime(2)
    expect(asked.isLoading.value).toBe(true)
    answers[0]?.('here')
    await done
    expect(asked.isLoading.value).toBe(false)
    vi.useRealTimers()
  })

  it('does once what is pressed twice, and again once it is done', async () => {
    const { once, isBusy } = useAttempt()
    const let_go: (() => void)[] = []
    const work = vi.fn(() => new Promise<void>(done => let_go.push(done)))
    const first = once(work)
    void once(work)
    void once(work, 'another')
    expect(work).toHaveBeenCalledTimes(2)
    let_go[0]!()
    await first
    expect(isBusy.value).toBe(true)
    void once(work)
    expect(work).toHaveBeenCalledTimes(3)
  })

  it('turns whatever is thrown into a refusal', async () => {
    const { refusal: why, attempt } = useAttempt()
    expect(await attempt(() => Promise.reject(new TypeError('x')))).toBeUndefined()
    expect(why.value).toBeInstanceOf(Refusal)
  })
})

describe('the notice at the bottom', () => {
  beforeEach(() => setActivePinia(createPinia()))

  it('still offers what could not be undone, and says why', async () => {
    const back = vi.fn<() => Promise<string>>().mockRejectedValueOnce(gone).mockResolvedValue('back')
    const notices = useNotices()
    notices.say('Deleted.', back)
    await notices.undo()
    expect(notices.notice?.words).toBe('Not undone. gone')
    await notices.undo()
    expect([notices.notice, back.mock.calls.length]).toEqual([null, 2])
  })
})

describe('small pure things', () => {
  it('lets nothing overtake, also after a failure', async () => {
    const order: number[] = []
    const next = inTurn()
    const slow = next(async () => { await Promise.resolve(); order.push(1); throw new Error('x') })
    const quick = next(async () => { order.push(2) })
    await expect(slow).rejects.toThrow('x')
    await quick
    expect(order).toEqual([1, 2])
  })

  it('finds one section of the rules', () => {
    expect(sectionOf('# T\n\n## A\n\n### one\n\nFirst.\n\n### two\n\nSecond.\n', 'one')).toBe('First.')
    expect(sectionOf('### one\n\nFirst.', 'on')).toBeNull()
  })
})
