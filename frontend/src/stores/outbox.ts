import { defineStore } from 'pinia'
import { computed, onScopeDispose, ref } from 'vue'
import { asRefusal, call, type Refusal } from '@/api/client'

/** Something to be told: under its key the server takes it once, however often it is sent. */
export interface Letter {
  key: string
  path: string
  json: Record<string, unknown>
  /** The rehearsal it belongs to, empty for the evening itself. */
  rehearsal: string
  /** Words somebody wrote: refused they are kept. */
  keeps?: boolean
  /** The letter of the same kind that was taken before it: what waits is told in the order it was written. */
  after?: string
  /** When it was written, by this machine. */
  at: number
  /** Why it was not taken: then it waits here to be corrected, and is not sent again. */
  refused?: string
}
type Answered = (letter: Letter, answer: unknown) => void
type Refused = (letter: Letter, refusal: Refusal) => void

const NAME = 'jade-perch.outbox'
const AGAIN_MS = 4000
/** So soon after it was written a press counts as made when it arrives. */
const FRESH_MS = 2000

/** What waits to be told, kept in this browser until it was answered; sent in order, by one page at a time. */
export const useOutbox = defineStore('outbox', () => {
  const letters = ref<Letter[]>(read())
  const isLost = ref(false)
  const answered = new Set<Answered>()
  const refused = new Set<Refused>()
  const lastTaken = new Map<string, string>()
  let isSending = false
  const waiting = computed(() => letters.value.filter(one => !one.refused))
  const isEmpty = computed(() => waiting.value.length === 0)
  const notTaken = computed(() => letters.value.filter(one => one.refused))

  function read (): Letter[] {
    try {
      return JSON.parse(localStorage.getItem(NAME) ?? '[]') as Letter[]
    } catch {
      return []
    }
  }
  function change (work: (before: Letter[]) => Letter[]) {
    const after = work(read().length ? read() : letters.value)
    letters.value = after
    try {
      localStorage.setItem(NAME, JSON.stringify(after))
    } catch {
      // a full or forbidden storage: it waits in this page alone
    }
  }
  function add (letter: Omit<Letter, 'at'>) {
    change(before => [...before, { ...letter, after: lastTaken.get(letter.path), at: Date.now() }])
    void send()
  }
  const drop = (key: string) => change(before => before.filter(one => one.key !== key))

  /** What was taken waits no longer, and those that wait follow it. */
  function take ({ key, path }: Letter) {
    lastTaken.set(path, key)
    change(before => before.filter(one => one.key !== key).map(one => one.path === path ? { ...one, after: key } : one))
  }

  /** Send one; whether there is any use in going on. */
  async function sendOne (letter: Letter): Promise<boolean> {
    const { made_at_utc: made, ...rest } = letter.json
    const told = Date.now() - letter.at < FRESH_MS ? rest : letter.json
    const json = made === undefined ? rest : { ...told, after_key: letter.after ?? '' }
    try {
      const answer = await call<unknown>(letter.path, { method: 'POST', json, rehearsal: letter.rehearsal })
      isLost.value = false
      take(letter)
      for (const act of answered) act(letter, answer)
      return true
    } catch (error) {
      const refusal = asRefusal(error)
      isLost.value = refusal.isLost
      if (refusal.isLost) return false
      if (letter.keeps) change(all => all.map(one => one.key === letter.key ? { ...one, refused: refusal.words } : one))
      else drop(letter.key)
      for (const act of refused) act(letter, refusal)
      return true
    }
  }
  async function sendAll () {
    letters.value = read().length ? read() : letters.value
    for (let next = waiting.value[0]; next; next = waiting.value[0]) if (!await sendOne(next)) return
  }
  async function send () {
    if (isSending || !waiting.value.length) return
    isSending = true
    try {
      await ('locks' in navigator ? navigator.locks.request(NAME, sendAll) : sendAll())
    } finally {
      isSending = false
    }
  }
  const again = () => void send()
  const timer = setInterval(again, AGAIN_MS)
  window.addEventListener('online', again)
  const onStorage = (event: StorageEvent) => { if (event.key === NAME) letters.value = read() }
  window.addEventListener('storage', onStorage)
  onScopeDispose(() => {
    clearInterval(timer)
    window.removeEventListener('online', again)
    window.removeEventListener('storage', onStorage)
  })
  return { letters, waiting, notTaken, isLost, isEmpty, add, drop, send, onAnswered: (act: Answered) => answered.add(act), onRefused: (act: Refused) => refused.add(act) }
})
