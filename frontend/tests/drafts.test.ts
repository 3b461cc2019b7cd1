import { effectScope, nextTick, ref } from 'vue'
import { beforeEach, describe, expect, it } from 'vitest'
import { keepDraft, MOST_DRAFTS, useDraft } from '@/shell/drafts'

const open = (name: () => string | null, fresh: () => Record<string, unknown> = () => ({ words: '' })) => {
  const scope = effectScope()
  return { scope, ...scope.run(() => useDraft(name, fresh))! }
}

describe('the keeper of drafts', () => {
  beforeEach(() => localStorage.clear())

  it('keeps what was typed until it is forgotten', () => {
    const first = open(() => 'a')
    expect(first.isDraft.value).toBe(false)
    first.values.value = { words: 'long shadows' }
    first.scope.stop()
    const again = open(() => 'a')
    expect([again.values.value.words, again.isDraft.value]).toEqual(['long shadows', true])
    again.forget()
    expect([again.values.value.words, again.isDraft.value, localStorage.length]).toEqual(['', false, 0])
  })

  it('brings back what was thrown away, and stays where it was stored', () => {
    const form = open(() => 'a')
    form.values.value = { words: 'a faint ring' }
    const bringBack = form.forget()
    expect(form.values.value.words).toBe('')
    bringBack()
    expect([form.values.value.words, form.isDraft.value]).toEqual(['a faint ring', true])
    expect(open(() => 'a').values.value.words).toBe('a faint ring')
    form.settle()
    expect([form.values.value.words, form.isDraft.value, localStorage.length]).toEqual(['a faint ring', false, 0])
  })

  it('follows what is stored where nothing was typed, and only there', () => {
    let stored = 'a ring'
    const form = open(() => 'a', () => ({ words: stored }))
    stored = 'two rings'
    form.follow()
    expect([form.values.value.words, form.isDraft.value]).toEqual(['two rings', false])
    form.values.value = { words: 'no ring' }
    stored = 'three rings'
    form.follow()
    expect([form.values.value.words, form.isDraft.value]).toEqual(['no ring', true])
    form.settle({ words: 'one ring' })
    expect([form.values.value.words, form.isDraft.value, localStorage.length]).toEqual(['one ring', false, 0])
  })

  it('is one draft a name, and none for no form', async () => {
    const name = ref<string | null>('a')
    const form = open(() => name.value)
    form.values.value = { words: 'of a' }
    name.value = 'b'
    await nextTick()
    expect(form.values.value.words).toBe('')
    name.value = null
    form.values.value = { words: 'of nothing' }
    name.value = 'a'
    expect(form.values.value.words).toBe('of a')
    expect(localStorage.length).toBe(1)
  })

  it('follows what another tab types into the same form', () => {
    const form = open(() => 'a')
    keepDraft(localStorage, 'a', { words: 'from there' }, 1)
    window.dispatchEvent(new StorageEvent('storage', { key: 'jade-perch.draft.a' }))
    expect([form.values.value.words, form.isDraft.value]).toEqual(['from there', true])
  })

  it('forgets the oldest of too many, and never fails over a broken one', () => {
    for (let n = 0; n < MOST_DRAFTS + 3; n++) keepDraft(localStorage, `d${n}`, { n }, n)
    expect(localStorage.length).toBe(MOST_DRAFTS)
    expect(open(() => 'd0').isDraft.value).toBe(false)
    localStorage.setItem('jade-perch.draft.broken', '{')
    expect(open(() => 'broken').values.value.words).toBe('')
  })
})
