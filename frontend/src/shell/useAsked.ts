import { getCurrentScope, onScopeDispose, shallowRef, type ShallowRef } from 'vue'
import { asRefusal, type Refusal } from '@/api/client'
import { useEvents, useTopics, type Topic } from '@/stores/events'

const PATIENCE_MS = 500

export interface UseAskedReturn<T> {
  answer: ShallowRef<T | null>
  refusal: ShallowRef<Refusal | null>
  /** Whether an answer is overdue: shown only after half a second, so that quick ones do not flicker. */
  isLoading: ShallowRef<boolean>
  /** Whether anything has been answered or refused yet. */
  isAsked: ShallowRef<boolean>
  load: () => Promise<void>
  /** Ask again once what is being asked is answered: however often something changes, answers are heard. */
  again: () => void
}

/**
 * Ask for something, and again whenever one of some topics changed, or somebody is there again after nobody was.
 * Only the answer to the latest question counts; one that is refused leaves the last answer standing and says why,
 * unless the page as a whole says that nobody answers.
 */
export function useAsked<T> (ask: () => Promise<T | null>, topics: readonly Topic[] = []): UseAskedReturn<T> {
  const answer = shallowRef(null) as ShallowRef<T | null>
  const refusal = shallowRef<Refusal | null>(null)
  const isLoading = shallowRef(false)
  const isAsked = shallowRef(false)
  let asked = 0
  let patience: ReturnType<typeof setTimeout> | undefined
  let isWaiting = false
  let isWanted = false
  let isGivenUp = false
  const events = useEvents()

  function again () {
    isWanted = true
    if (!isWaiting) void load()
  }
  async function load () {
    isWanted = false
    isWaiting = true
    const mine = ++asked
    clearTimeout(patience)
    patience = setTimeout(() => { isLoading.value = true }, PATIENCE_MS)
    let found: { answer: T | null } | { refusal: Refusal }
    try {
      found = { answer: await ask() }
    } catch (error) {
      found = { refusal: asRefusal(error) }
    }
    if (mine !== asked) return
    isWaiting = false
    clearTimeout(patience)
    isLoading.value = false
    isAsked.value = true
    const why = 'refusal' in found ? found.refusal : null
    isGivenUp = !!why?.isUnanswered
    if (!isGivenUp || !events.isLost || answer.value === null) refusal.value = why
    if ('answer' in found) answer.value = found.answer
    if (isWanted) void load()
  }
  // what nobody has asked for yet is no business of a change
  if (topics.length) useTopics(topics, () => { if (asked) again() })
  else useTopics(['back'], () => { if (isGivenUp) again() })
  if (getCurrentScope()) onScopeDispose(() => clearTimeout(patience))
  return { answer, refusal, isLoading, isAsked, load, again }
}

export interface UseAttemptReturn {
  refusal: ShallowRef<Refusal | null>
  isBusy: ShallowRef<boolean>
  /** Do something that may be refused; gives its result, or undefined after a refusal. */
  attempt: <T> (work: () => Promise<T>) => Promise<T | undefined>
  /**
   * The same for what is to be done once, however often it is pressed: a press while it is being done is none, and never
   * answered. `of` tells apart what may be done at the same time.
   */
  once: <T> (work: () => Promise<T>, of?: unknown) => Promise<T | undefined>
}

/** One thing at a time that may be refused, such as saving a form. */
export function useAttempt (): UseAttemptReturn {
  const refusal = shallowRef<Refusal | null>(null)
  const isBusy = shallowRef(false)
  let running = 0
  async function attempt<T> (work: () => Promise<T>): Promise<T | undefined> {
    isBusy.value = ++running > 0
    try {
      const result = await work()
      refusal.value = null
      return result
    } catch (error) {
      refusal.value = asRefusal(error)
      return undefined
    } finally {
      isBusy.value = --running > 0
    }
  }
  const doing = new Set<unknown>()
  function once<T> (work: () => Promise<T>, of?: unknown): Promise<T | undefined> {
    if (doing.has(of)) return new Promise(() => {})
    doing.add(of)
    return attempt(work).finally(() => doing.delete(of))
  }
  return { refusal, isBusy, attempt, once }
}
