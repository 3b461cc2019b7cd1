import { onScopeDispose, shallowRef, toValue, watch, type MaybeRefOrGetter, type ShallowRef } from 'vue'
import { asRefusal, call, Refusal, UNREACHABLE, type Schema } from '@/api/client'
import { useEvents, useTopics } from '@/stores/events'
import { useBench } from '@/stores/bench'
import { useNotices } from '@/shell/notices'

/** What every step's answer has. */
export type AnyAdvice = Pick<Schema<'CoolAdvice'>, 'instruction' | 'detail' | 'is_done' | 'sums' | 'simulated'>
export interface UseAdviceReturn<T> {
  advice: ShallowRef<T | null>
  refusal: ShallowRef<Refusal | null>
  /** Record what stands in the form, as practice where it rests on something simulated; true when it was taken. */
  record: () => Promise<boolean>
  /** Keep what was seen and say that what was asked is turned, so that the next reading teaches; true when taken. */
  turned: () => Promise<boolean>
}

/** Ask a step's rules again whenever its reading changes; null asks nothing. */
export function useAdvice<T extends AnyAdvice> (
  path: string, reading: MaybeRefOrGetter<object | null>, options: { waitMs?: number, recorded?: () => void } = {},
): UseAdviceReturn<T> {
  const { waitMs = 120 } = options
  const notices = useNotices()
  const advice = shallowRef(null) as ShallowRef<T | null>
  const refusal = shallowRef<Refusal | null>(null)
  let asked = 0
  let waiting: ReturnType<typeof setTimeout> | undefined
  let isUnderWay = false
  let isWanted = false
  let isTurning = false

  async function ask (query = ''): Promise<T | null> {
    const mine = ++asked
    const json = toValue(reading)
    if (!json) {
      advice.value = null
      refusal.value = null
      return null
    }
    try {
      const answer = await call<T>(`/setup/${path}${query}`, { method: 'POST', json })
      // a later question may be under way; what was recorded is recorded all the same
      if (mine === asked) {
        advice.value = answer
        refusal.value = null
      }
      return answer
    } catch (error) {
      if (mine === asked) refusal.value = asRefusal(error)
      return null
    }
  }
  /** One question after the other: a slow server is never asked anew before it has answered. */
  async function askNext () {
    isWanted = true
    if (isUnderWay || isTurning) return
    isUnderWay = true
    while (isWanted && !isTurning) {
      isWanted = false
      await ask()
    }
    isUnderWay = false
  }
  const bench = useBench()
  async function turned () {
    clearTimeout(waiting)
    waiting = undefined
    isTurning = true
    const isTaken = await ask('?turned=true') !== null
    isTurning = false
    // what is read meanwhile is judged after the turn it follows
    if (isWanted) void askNext()
    return isTaken
  }
  async function record () {
    clearTimeout(waiting)
    waiting = undefined
    const visit = bench.visits
    const practice = advice.value?.simulated ? '&as_practice=true' : ''
    const recorded = await ask(`?recorded=true${practice}`)
    if (!recorded) return false
    options.recorded?.()
    notices.say(practice ? 'Recorded as practice.' : 'Recorded.')
    if (recorded.is_done) bench.goOn(visit)
    return true
  }
  watch(() => JSON.stringify(toValue(reading)), () => {
    // a live instrument never pauses, so what waits is not put off again
    waiting ??= setTimeout(() => {
      waiting = undefined
      void askNext()
    }, advice.value ? waitMs : 0)
  }, { immediate: true })
  // nobody is there to judge it any more: what was advised does not stand
  const events = useEvents()
  watch(() => events.isLost, now => {
    if (!now || !(advice.value || refusal.value)) return
    asked++
    refusal.value = new Refusal(UNREACHABLE)
  })
  // what was safe or ready a while ago may be so no longer, and what was refused may be safe
  useTopics(['clock', 'evening', 'kit', 'setup', 'session'], () => { if (advice.value || refusal.value) void askNext() })
  onScopeDispose(() => clearTimeout(waiting))
  return { advice, refusal, record, turned }
}
