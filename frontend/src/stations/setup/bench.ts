import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { call, type Refusal, type Schema } from '@/api/client'
import { useEvening } from '@/shell/evening'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'

export type Bench = Schema<'Bench'>
export type Step = Schema<'Step'>
export type StepName = Step['name']

/** The bench of tonight's telescope and the step one stands at. */
export const useBench = defineStore('bench', () => {
  const evening = useEvening()
  const notices = useNotices()
  const bench = shallowRef<Bench | null>(null)
  const isLoaded = shallowRef(false)
  const refusal = shallowRef<Refusal | null>(null)
  const chosen = useKept<StepName>('setup-step', 'stand')
  const step = computed(() => bench.value?.steps.find(one => one.name === chosen.value))
  /** The first step after this one that still waits. */
  const next = computed(() => {
    const steps = bench.value?.steps ?? []
    const at = steps.findIndex(one => one.name === chosen.value)
    return [...steps.slice(at + 1), ...steps.slice(0, at)].find(one => one.state === 'to_do' || one.state === 'spoiled')
  })

  async function take (answer: Promise<Bench | null>) {
    try {
      bench.value = await answer
      refusal.value = null
    } catch (error) {
      refusal.value = error as Refusal
    }
    isLoaded.value = true
  }
  const load = () => take(call<Bench | null>('/setup'))
  /** Read bench and ribbon again after something was recorded. */
  async function recorded () {
    await Promise.all([load(), evening.refresh()])
  }
  async function change (path: string, words: string) {
    await take(call<Bench>(`/setup/${path}`, { method: 'POST' }))
    await evening.refresh()
    notices.say(words)
  }
  return { bench, isLoaded, refusal, chosen, step, next, load, recorded, change }
})
