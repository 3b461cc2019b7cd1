import { computed, type ComputedRef } from 'vue'
import { asRefusal, Refusal } from '@/api/client'
import type { Topic } from '@/stores/events'
import { useAsked } from './useAsked'

/** What is asked for apart: each by what people call it. */
export type Parts<T> = { [Name in keyof T]: { title: string, ask: () => Promise<T[Name]> } }

export interface UsePartsReturn<T> {
  /** What was answered, each part on its own; a part that failed keeps its last answer, or is missing. */
  answer: ComputedRef<Partial<T> | null>
  /** Which parts are not shown, and why. */
  refusal: ComputedRef<Refusal | null>
  load: () => Promise<void>
}

/** Ask for several things apart: one that cannot be had is named, and takes none of the others with it. */
export function useParts<T extends object> (parts: Parts<T>, topics: readonly Topic[] = []): UsePartsReturn<T> {
  const names = Object.keys(parts) as (keyof T)[]
  const asked = useAsked(async () => {
    const found = await Promise.allSettled(names.map(name => parts[name].ask()))
    const values: Partial<T> = { ...asked.answer.value?.values }
    const titles: string[] = []
    let first: Refusal | null = null
    found.forEach((one, place) => {
      const name = names[place] as keyof T
      if (one.status === 'fulfilled') values[name] = one.value
      else {
        titles.push(parts[name].title)
        first ??= asRefusal(one.reason)
      }
    })
    const why = first as Refusal | null
    if (why && (titles.length === names.length || why.isUnanswered)) throw why
    return { values, failed: why && notShown(titles, why) }
  }, topics)
  return {
    answer: computed(() => asked.answer.value?.values ?? null),
    refusal: computed(() => asked.refusal.value ?? asked.answer.value?.failed ?? null),
    load: asked.load,
  }
}

function notShown (titles: readonly string[], why: Refusal): Refusal {
  return new Refusal({ ...why.problem, errors: [], detail: `Not shown as it is now: ${titles.join(', ')}. ${why.problem.detail}` })
}
