import { onScopeDispose, shallowRef, toValue, watch, type MaybeRefOrGetter, type ShallowRef } from 'vue'
import { asRefusal, call, type Refusal, type Schema } from '@/api/client'
import { useTopics } from '@/stores/events'
import { useNotices } from '@/shell/notices'

/** What every step's answer has. */
export type AnyAdvice = Pick<Schema<'BalanceAdvice'>, 'instruction' | 'detail' | 'is_done' | 'sums'>
export interface UseAdviceReturn<T> {
  advice: ShallowRef<T | null>
  refusal: ShallowRef<Refusal | null>
  /** Record what stands in the form; true when it was taken. */
  record: () => Promise<boolean>
}

/** Ask a step's rules again whenever its reading changes; null asks nothing. */
export function useAdvice<T> (
  path: string, reading: MaybeRefOrGetter<object | null>, options: { waitMs?: number } = {},
): UseAdviceReturn<T> {
  const { waitMs = 120 } = options
  const notices = useNotices()
  const advice = shallowRef(null) as ShallowRef<T | null>
  const refusal = shallowRef<Refusal | null>(null)
  let asked = 0
  let waiting: ReturnType<typeof setTimeout> | undefined

  async function ask (query = ''): Promise<boolean> {
    const mine = ++asked
    const json = toValue(reading)
    if (!json) {
      advice.value = null
      refusal.value = null
      return false
    }
    try {
      const answer = await call<T>(`/setup/${path}${query}`, { method: 'POST', json })
      // a later question may be under way; what was recorded is recorded all the same
      if (mine === asked) {
        advice.value = answer
        refusal.value = null
      }
      return true
    } catch (error) {
      if (mine === asked) refusal.value = asRefusal(error)
      return false
    }
  }
  async function record () {
    clearTimeout(waiting)
    waiting = undefined
    if (!await ask('?recorded=true')) return false
    notices.say('Recorded.')
    return true
  }
  watch(() => JSON.stringify(toValue(reading)), () => {
    // a live instrument never pauses, so what waits is not put off again
    waiting ??= setTimeout(() => {
      waiting = undefined
      void ask()
    }, advice.value ? waitMs : 0)
  }, { immediate: true })
  // what was safe or ready a while ago may be so no longer
  useTopics(['clock', 'evening', 'kit'], () => { if (advice.value) void ask() })
  onScopeDispose(() => clearTimeout(waiting))
  return { advice, refusal, record }
}
