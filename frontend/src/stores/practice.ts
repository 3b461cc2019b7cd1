import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { useKept } from '@/shell/kept'
import { asRefusal, call, type Refusal, type Schema } from '@/api/client'
import { useEvents, useTopics } from './events'

export type Run = Schema<'RunShown'>
export type DrillName = Run['drill']
type Move = Schema<'Made'>['move']
/** A move as a drill makes it; when it was made is added here. */
export type Hand = Move extends infer M ? M extends { at_s?: number } ? Omit<M, 'at_s'> : never : never

/** The drill under the hands: each move is told once and in order, and waits while nobody answers. */
export const usePractice = defineStore('practice', () => {
  const events = useEvents()
  const run = shallowRef<Run | null>(null)
  const refusal = shallowRef<Refusal | null>(null)
  /** Moves nobody answered yet: which round's, and how many it had before them.  They outlive a reload of this window. */
  const kept = useKept('practice.waiting', { id: 0, number: 0, moves: [] as Move[] }, sessionStorage)
  const waiting = computed(() => kept.value.moves)
  const forget = () => { kept.value = { id: 0, number: 0, moves: [] } }
  const isBusy = shallowRef(false)
  /** The drill's clock: it stands while nobody looks at the page. */
  let base = { atS: 0, ms: 0 }
  const watched = () => document.visibilityState === 'visible' ? performance.now() - base.ms : 0
  const atS = () => base.atS + Math.max(0, watched()) / 1000
  document.addEventListener('visibilitychange', () => {
    if (document.visibilityState === 'hidden') base = { atS: base.atS + Math.max(0, performance.now() - base.ms) / 1000, ms: performance.now() }
    else base.ms = performance.now()
  })
  /** The round somebody is in; an answer about another one comes too late. */
  let wanted: number | null = null
  function show (now: Run) {
    const isOther = run.value?.id !== now.id
    if (now.id !== wanted || (!isOther && now.number < run.value!.number)) return
    run.value = now
    if (isOther || now.at_s > atS()) base = { atS: now.at_s, ms: performance.now() }
  }

  async function tell () {
    if (isBusy.value || !run.value) return
    isBusy.value = true
    try {
      while (waiting.value[0] && run.value) {
        const { id, number, moves: [move] } = kept.value
        const now: Run = await call<Run>(`/practice/runs/${id}/moves`, { method: 'POST', json: { number, move } })
        kept.value = { id, number: now.number, moves: waiting.value.slice(1) }
        show(now)
        refusal.value = null
      }
    } catch (error) {
      refusal.value = asRefusal(error)
      // what was refused is not told again; what nobody heard waits
      if (!refusal.value.isLost) {
        forget()
        await open(run.value.id, true)
      }
    } finally {
      isBusy.value = false
    }
  }
  function make (hand: Hand) {
    if (!run.value || run.value.is_over) return
    const { id, number } = run.value, { moves } = kept.value
    const before = moves.length ? kept.value : { id, number }
    kept.value = { ...before, moves: [...moves, { ...hand, at_s: Math.round(atS() * 1000) / 1000 } as Move] }
    void tell()
  }
  async function begin (drill: DrillName, way = '') {
    forget()
    refusal.value = null
    const now = await call<Run>('/practice/runs', { method: 'POST', json: { drill, way } })
    wanted = now.id
    show(now)
    return now
  }
  async function open (id: number, keepsRefusal = false) {
    if (kept.value.id !== id) forget()
    wanted = id
    try {
      const now = await call<Run>(`/practice/runs/${id}`, { isOnce: true })
      if (!waiting.value.length || run.value?.id !== id) show(now)
      if (!keepsRefusal) refusal.value = null
      void tell()
    } catch (error) {
      refusal.value = asRefusal(error)
    }
  }
  /** Another window, or somebody there again: what waits is told, else it is looked at anew. */
  useTopics(['practice', 'back'], () => {
    if (!run.value || isBusy.value) return
    if (waiting.value.length) void tell()
    else void open(run.value.id)
  })
  const isHeld = computed(() => waiting.value.length > 0 && (events.isLost || !!refusal.value?.isLost))
  return { run, refusal, isBusy, isHeld, waiting, atS, make, begin, open, tell }
})
