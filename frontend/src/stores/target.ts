import { defineStore } from 'pinia'
import { computed, shallowRef, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'
import { useKept } from '@/shell/kept'
import { useEvening } from './evening'
import { useNoting } from './noting'
import { useRungs } from './rungs'

export type Disc = Schema<'Disc'>
export type Target = Schema<'Target'>
interface Discs { one: Disc, beside: Disc | null }

/** The target one looks at, seen through the chosen rung and, if wished, another beside it. */
export const useTarget = defineStore('target', () => {
  const rungs = useRungs()
  const noting = useNoting()
  const evening = useEvening()
  const key = computed(() => evening.evening?.choice.target_key ?? null)
  const mode = useKept<Disc['mode']>('disc-side', 'eyepiece')
  const besideKey = shallowRef<string | null>(null)
  /** A wished moment of the chosen evening; none is now, or when looking begins. */
  const atUtc = shallowRef<string | null>(null)
  watch([() => evening.evening?.choice.date, () => evening.evening?.site?.id], () => { atUtc.value = null })

  async function ask (rung: string): Promise<Disc> {
    const query = new URLSearchParams({
      telescope_id: String(rungs.ladder?.telescope_id), rung, target: key.value ?? '', mode: mode.value,
    })
    if (atUtc.value) query.set('at_utc', atUtc.value)
    return call<Disc>(`/powers/disc?${query}`)
  }
  const { answer, refusal, load: loadDiscs } = useAsked<Discs>(async () => {
    const rung = rungs.selectedKey
    if (!rung || !rungs.ladder || key.value === null) return null
    const other = besideKey.value && rungs.ladder.rungs.some(one => one.key === besideKey.value) ? besideKey.value : null
    const [one, beside] = await Promise.all([ask(rung), other ? ask(other) : Promise.resolve(null)])
    return { one, beside }
  })
  const disc = computed(() => answer.value?.one ?? null)
  const beside = computed(() => answer.value?.beside ?? null)
  async function load () {
    await loadDiscs()
    if (!disc.value) return
    noting.target = disc.value.target.label
    const declination = Math.round(disc.value.declination_deg * 10) / 10
    const isMoon = disc.value.target.body === 'moon'
    if (declination !== rungs.course.declination_deg || isMoon !== rungs.course.of_moon) {
      rungs.course = { declination_deg: declination, of_moon: isMoon }
      await rungs.load()
    }
  }
  /** Look at another target, here and wherever this evening is open. */
  async function choose (target: string) {
    await call('/powers/view', { method: 'PUT', json: { target_key: target } })
    await evening.refresh()
  }
  /** The targets whose names hold a text, best first. */
  const search = (text: string) => call<Target[]>(`/targets?${new URLSearchParams({ text })}`)
  return { key, mode, besideKey, atUtc, disc, beside, refusal, load, choose, search }
})
