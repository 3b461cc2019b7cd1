import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { call, newKey, type Schema } from '@/api/client'
import { useNotices } from '@/shell/notices'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from './evening'
import { useNoting } from './noting'
import { useOutbox } from './outbox'
import { useTicking } from './ticking'

export type Screen = Schema<'Screen'>
export type WalkStep = Schema<'WalkStep'>
type Spot = Schema<'Spot'>
type Press = Schema<'Press'>
/** Where this page stands until the server has said the same; `centredMs` is when the target was last in the middle. */
interface Mine { spot: Spot | null, centredMs: number | null }
const PATH = '/eyepiece/press'
/** A page that hears the clock asks again within this time; only one that is cut off gets older. */
const GRACE_MS = 300_000

/** The evening at the eyepiece: every press shows at once, is kept until it was told, and told once. */
export const useEyepiece = defineStore('eyepiece', () => {
  const evening = useEvening()
  const outbox = useOutbox()
  const ticking = useTicking()
  const notices = useNotices()
  const noting = useNoting()
  const mine = shallowRef<Mine | null>(null)
  let made = 0
  /** How many presses had been made, and all told, when a screen was asked for. */
  const heardAt = new WeakMap<Screen, number>()

  const { answer: screen, refusal, isAsked, load, again } = useAsked(async () => {
    const [before, wasEmpty] = [made, outbox.isEmpty]
    const found = await call<Screen | null>('/eyepiece')
    if (found && wasEmpty) heardAt.set(found, before)
    return found
  }, ['eyepiece', 'evening', 'kit', 'plan', 'clock', 'setup'])

  // a screen that knows of every press speaks for itself; one that is older does not take them back
  watch(screen, now => { if (now && heardAt.get(now) === made) mine.value = null }, { flush: 'sync' })

  const here = computed(() => screen.value?.here ?? null)
  const sitting = computed(() => screen.value?.sitting ?? null)
  const spot = computed(() => mine.value ? mine.value.spot : sitting.value?.spot ?? null)
  const isBetween = computed(() => spot.value === null)
  /** The last target was left and the next one is not known yet. */
  const isAwaiting = computed(() => mine.value?.spot === null)
  /** The Sun guard refuses, or what it said no longer holds and nobody answered since. */
  const isUnsafe = computed(() => !!here.value
    && (here.value.sun.refused || ticking.nowMs > Math.max(Date.parse(here.value.safe_until_utc), Date.parse(screen.value!.now_utc) + GRACE_MS)))
  const steps = computed(() => here.value?.walk.steps ?? [])
  const at = computed(() => {
    const now = spot.value
    if (!now) return 0
    const same = (one: WalkStep) => one.spot.kind === now.kind && (one.spot.rung_key ?? '') === (now.rung_key ?? '')
      && !!one.spot.is_down === !!now.is_down && one.spot.target_key === now.target_key
    return Math.max(0, steps.value.findIndex(same))
  })
  const step = computed(() => steps.value[at.value])
  const rungKey = computed(() => step.value?.spot.rung_key || here.value?.rungs[0]?.key)
  const rung = computed(() => here.value?.rungs.find(one => one.key === rungKey.value))
  const keeping = computed(() => here.value?.keeping.find(one => one.rung_key === rungKey.value))
  const centredMs = computed(() => {
    if (mine.value) return mine.value.centredMs
    const utc = sitting.value?.centred_at_utc
    return utc ? Date.parse(utc) : null
  })
  /** Seconds until it reaches the edge; null while it is not in the middle, or stays for hours. */
  const leftS = computed(() => {
    const edge = keeping.value?.edge_s ?? null
    if (edge === null || centredMs.value === null || step.value?.spot.kind !== 'look') return null
    return edge - (ticking.nowMs - centredMs.value) / 1000
  })
  const isPushDue = computed(() => {
    const [left, push, edge] = [leftS.value, keeping.value?.push_s ?? null, keeping.value?.edge_s ?? null]
    return left !== null && push !== null && edge !== null && left <= edge - push
  })

  function press (what: Press['what'], values: Partial<Press> = {}) {
    const now = screen.value
    if (!now) return
    made++
    const key = newKey()
    const json = { date: now.date, site_id: now.site_id ?? null, ...values, key, what, made_at_utc: ticking.nowUtc, rehearsal: evening.evening?.rehearsal ?? '' }
    outbox.add({ key, path: PATH, json, rehearsal: json.rehearsal })
  }
  function goTo (number: number | null | undefined) {
    const wanted = number === null || number === undefined ? undefined : steps.value[number]
    if (!wanted) return
    const isLook = wanted.spot.kind === 'look'
    mine.value = { spot: wanted.spot, centredMs: isLook ? ticking.nowMs : wanted.spot.kind === 'note' ? centredMs.value : null }
    press('go', { spot: wanted.spot })
    if (wanted.spot.kind === 'note') noting.begin()
  }
  function leave (what: 'done' | 'skip' | 'later') {
    const key = here.value?.target.key
    if (!key || isAwaiting.value) return
    mine.value = { spot: null, centredMs: null }
    press(what, { target_key: key })
  }
  /** The one large button. */
  function forward () {
    if (!step.value || isAwaiting.value || isUnsafe.value) return
    if (isBetween.value) goTo(isWaiting.value ? 0 : step.value.next)
    else if (step.value.next === null || step.value.next === undefined) leave('done')
    else goTo(step.value.next)
  }
  /** What is offered next has its time later. */
  const isWaiting = computed(() => isBetween.value && screen.value?.offers[0]?.is_now === false)
  const softer = () => goTo(step.value?.softer)
  const enough = () => goTo(step.value?.enough)
  function centred () {
    if (step.value?.spot.kind !== 'look') return
    mine.value = { spot: spot.value, centredMs: ticking.nowMs }
    press('centred')
  }
  /** Take another target instead of the one that is offered. */
  function choose (key: string) {
    const wanted: Spot = { target_key: key, kind: 'point', rung_key: '', is_down: false }
    mine.value = null
    press('go', { spot: wanted })
  }
  const light = (personId: number | null) => press('light', { person_id: personId })
  const turn = (personId: number) => press('turn', { person_id: personId })
  const queue = (ids: number[]) => press('queue', { people_ids: ids })
  function nextPerson () {
    const [first] = screen.value?.queue.next_ids ?? []
    if (first === undefined) notices.say('Nobody waits in the queue.')
    else turn(first)
  }
  outbox.onAnswered(letter => { if (letter.path === PATH) again() })
  outbox.onRefused((letter, why) => {
    if (letter.path !== PATH) return
    mine.value = null
    notices.say(why.words)
    again()
  })
  const which = () => `${evening.evening?.night?.date} ${evening.evening?.site?.id} ${evening.evening?.rehearsal}`
  watch(which, () => { mine.value = null })
  return {
    screen, refusal, isAsked, load, here, sitting, spot, isBetween, isAwaiting, isWaiting, step, at, steps, rungKey, rung, keeping,
    leftS, isPushDue, press, isUnsafe, goTo, leave, forward, softer, enough, centred, choose, light, turn, queue, nextPerson,
  }
})
