import { defineStore } from 'pinia'
import { computed } from 'vue'
import { go } from '@/router'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useBench } from './bench'

/** The one next step of the whole evening; the server spins it, every station shows it. */
export const useThread = defineStore('thread', () => {
  const bench = useBench()
  const { answer, load } = useAsked(
    () => call<Schema<'Thread'>>('/eyepiece/thread'), ['eyepiece', 'evening', 'kit', 'plan', 'clock', 'setup'],
  )
  const words = computed(() => {
    const one = answer.value
    if (!one) return ''
    return one.when ? `${one.words}: ${one.when}` : one.words
  })
  function follow () {
    const one = answer.value
    if (!one) return
    if (one.step) bench.goTo(one.step)
    go(one.leads_to)
  }
  return { answer, words, load, follow }
})
