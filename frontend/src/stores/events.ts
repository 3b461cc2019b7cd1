import { defineStore } from 'pinia'
import { getCurrentScope, onScopeDispose, shallowRef } from 'vue'
import { abandon, onAnswers, PAGE, type Schema, type Topic as Changed } from '@/api/client'
import { whenFree } from '@/api/hand'
import { Stream, type Kind, type Told } from './stream'

type Shown = Schema<'Shown'>
/** How long an answer is still waited for once nothing comes any more: what was safe may be so no longer. */
const GRACE_MS = 500
/** What may be waited for: a change, or somebody being there again after nobody answered. */
export type Topic = Changed | 'back'
/** What a page may have missed while it was not told: everything it could read again. */
const ALL: readonly Topic[] = ['kit', 'evening', 'view', 'setup', 'plan', 'session', 'journal', 'eyepiece', 'practice', 'clock', 'back']

/** What changed, said once to whoever wants to know; a page nobody looks at is told when it is looked at again. */
export const useEvents = defineStore('events', () => {
  const wanted = new Map<Topic, Set<() => void>>()
  const readings = new Set<(shown: Shown) => void>()
  const waiting = new Set<Topic>()
  const boot = shallowRef<string | null>(null)
  /** The number of the last change this page was told of, or knew of when it first asked. */
  let known: number | null = null
  let stream: Stream | null = null
  /** Nothing comes any more: nobody is there, or the way is cut. */
  const isLost = shallowRef(false)

  function fire (topics: Iterable<Topic>) {
    for (const topic of topics) for (const one of topic === 'everything' ? ALL : [topic]) waiting.add(one)
    if (document.visibilityState === 'hidden') return
    const acts = new Set([...waiting].flatMap(topic => [...wanted.get(topic) ?? []]))
    waiting.clear()
    for (const act of acts) act()
  }
  function hear (told: Told) {
    if (told.topic === 'instrument') {
      const { shown } = told
      if (shown) whenFree(() => { for (const act of readings) act(shown) })
    } else if (told.topic === 'hello') {
      const isBack = boot.value !== null
      const isAnother = isBack && told.boot !== boot.value
      boot.value = told.boot ?? null
      if (isAnother || (known !== null && told.number !== known)) fire(ALL)
      else if (isBack) fire(['clock'])
      known = told.number ?? 0
    } else if (told.topic === 'alive') return
    else if (told.topic === 'clock') fire(['clock'])
    else {
      known = Math.max(known ?? 0, told.number ?? 0)
      if (told.by !== PAGE) fire([told.topic])
    }
  }
  function start () {
    onAnswers(topic => fire([topic]), number => { if (boot.value === null) known ??= number })
    document.addEventListener('visibilitychange', () => fire([]))
    stream = new Stream(hear, now => {
      isLost.value = now
      if (!now) return fire(ALL) // what was given up meanwhile, whether the stream began anew or only went on
      abandon()
      fire(['clock']) // asking again says that nobody answers
      setTimeout(() => { if (isLost.value) abandon() }, GRACE_MS)
    })
    stream.start()
  }
  /** Call `act` whenever one of some topics changed; the result stops that. */
  function on (topics: readonly Topic[], act: () => void): () => void {
    for (const topic of topics) wanted.set(topic, (wanted.get(topic) ?? new Set()).add(act))
    return () => { for (const topic of topics) wanted.get(topic)?.delete(act) }
  }
  /** Call `act` with every reading of one kind of instrument; the result stops that. */
  function onReadings (kind: Kind, act: (shown: Shown) => void): () => void {
    const mine = (shown: Shown) => { if (shown.instrument === kind) act(shown) }
    readings.add(mine)
    stream?.listen(kind)
    return () => {
      readings.delete(mine)
      stream?.ignore(kind)
    }
  }
  /** Give up what is only asked for and takes too long, and ask for it anew. */
  function askAgain () {
    abandon()
    fire(ALL)
  }
  return { start, on, askAgain, onReadings, isLost }
})

/** Act on changes of some topics for as long as the component or store lives. */
export function useTopics (topics: readonly Topic[], act: () => void) {
  const stop = useEvents().on(topics, act)
  if (getCurrentScope()) onScopeDispose(stop)
}
