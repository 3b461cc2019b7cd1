import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { call, type Schema } from '@/api/client'
import { useKept } from '@/shell/kept'
import { useNotices } from '@/shell/notices'
import { useAsked, useAttempt } from '@/shell/useAsked'

export type Bench = Schema<'Bench'>
export type Step = Schema<'Step'>
export type StepName = Step['name']

const isWaiting = (step: Step) => !step.waits_for?.length && ['to_do', 'spoiled', 'unsafe'].includes(step.state)

/** The bench of tonight's telescope and the step one stands at. */
export const useBench = defineStore('bench', () => {
  const notices = useNotices()
  const { answer: bench, refusal, isLoading, isAsked, load } = useAsked(
    () => call<Bench | null>('/setup'), ['setup', 'evening', 'kit', 'clock'],
  )
  const changing = useAttempt()
  const chosen = useKept<StepName>('setup-step', 'assemble')
  const step = computed(() => bench.value?.steps.find(one => one.name === chosen.value))
  /** The first step after this one that still waits. */
  const next = computed(() => {
    const steps = bench.value?.steps ?? []
    const at = steps.findIndex(one => one.name === chosen.value)
    return [...steps.slice(at + 1), ...steps.slice(0, at)].find(one => isWaiting(one))
  })

  /** How often somebody went to a step, be it the one they stood at: whoever asks keeps it until the answer. */
  const visits = shallowRef(0)
  function goTo (name: StepName) {
    visits.value++
    chosen.value = name
  }
  /** On to what waits next, once a step is good; not where somebody went to a step since the visit it was asked at. */
  function goOn (visit: number) {
    if (visits.value === visit && next.value) goTo(next.value.name)
  }

  /** The landmark that is safe at this moment, as it was told to the Sun guard; null without one. */
  const landmark = computed(() => {
    const kept = bench.value?.steps.find(one => one.name === 'sun')
    return kept?.state === 'done' ? kept.inputs as Schema<'Landmark'> | null : null
  })

  async function change (path: string, words: string) {
    const changed = await changing.attempt(() => call<Bench>(`/setup/${path}`, { method: 'POST' }))
    if (changed) {
      bench.value = changed
      notices.say(words)
      return true
    }
    notices.say(changing.refusal.value?.words ?? '')
    return false
  }
  /** Say that a step is done which has no reading of its own; practice where it is built on practice. Whether it was taken. */
  function giveWord (name: 'power' | 'budget'): Promise<boolean> {
    const isPractice = !!bench.value?.steps.find(one => one.name === name)?.built_on_simulated
    return change(`steps/${name}/done${isPractice ? '?as_practice=true' : ''}`, isPractice ? 'Recorded as practice.' : 'Recorded.')
  }
  return { giveWord, visits, goTo, goOn, bench, isLoading, isAsked, refusal, chosen, step, next, landmark, load, change }
})
