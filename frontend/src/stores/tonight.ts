import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from './evening'

export type Prospect = Schema<'Prospect'>
export type ListName = Schema<'Prospects'>['listed']

/** Tonight's list, told for a wished moment of the night or for now, and the target chosen on it. */
export const useTonight = defineStore('tonight', () => {
  const evening = useEvening()
  /** A wished moment; none is now. */
  const atUtc = shallowRef<string | null>(null)
  const chosenKey = shallowRef<string | null>(null)
  const query = (values: Record<string, string | null>) => {
    const given = Object.entries(values).filter((pair): pair is [string, string] => pair[1] !== null)
    return given.length ? `?${new URLSearchParams(given)}` : ''
  }
  const topics = ['evening', 'kit', 'plan', 'clock', 'journal'] as const
  const { answer, refusal, isAsked, isLoading, load } = useAsked(
    () => call<Schema<'Prospects'> | null>(`/plan/tonight${query({ at_utc: atUtc.value })}`), topics,
  )
  const closer = useAsked(async () => chosenKey.value === null
    ? null
    : call<Schema<'Closer'> | null>(`/plan/target/${encodeURIComponent(chosenKey.value)}${query({ at_utc: atUtc.value })}`), topics)
  const tonight = computed(() => answer.value?.tonight ?? null)
  watch([() => evening.evening?.night?.date, () => evening.evening?.site?.id], () => { atUtc.value = null })
  watch(atUtc, () => { if (isAsked.value) void Promise.all([load(), closer.load()]) })
  watch(chosenKey, () => {
    closer.answer.value = null
    void closer.load()
  })
  return {
    answer, tonight, refusal, isAsked, isLoading, load, atUtc, chosenKey,
    chosen: closer.answer, chosenRefusal: closer.refusal,
  }
})
