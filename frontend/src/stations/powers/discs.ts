import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import { call, type Refusal, type Schema } from '@/api/client'
import { useKept } from '@/shell/kept'
import { useNoting } from '@/shell/noting'
import { useRungs } from '@/shell/rungs'

export type Disc = Schema<'Disc'>
export type TargetName = Schema<'TargetName'>

/** The target on the view disc, seen through the chosen rung and, if wished, another beside it. */
export const useDiscs = defineStore('discs', () => {
  const rungs = useRungs()
  const noting = useNoting()
  const targetKey = useKept('disc-target', 'moon')
  const mode = useKept<Disc['mode']>('disc-side', 'eyepiece')
  const besideKey = shallowRef<string | null>(null)
  const disc = shallowRef<Disc | null>(null)
  const beside = shallowRef<Disc | null>(null)
  const targets = shallowRef<TargetName[]>([])
  const refusal = shallowRef<Refusal | null>(null)
  let asked = 0

  async function ask (key: string) {
    const query = new URLSearchParams({
      telescope_id: String(rungs.ladder?.telescope_id), rung: key, target: targetKey.value, mode: mode.value,
    })
    return call<Disc>(`/powers/disc?${query}`)
  }
  async function load () {
    const key = rungs.selectedKey
    if (!key || !rungs.ladder) return
    const mine = ++asked
    try {
      if (!targets.value.length) targets.value = await call<TargetName[]>('/powers/targets')
      const other = besideKey.value && rungs.ladder.rungs.some(rung => rung.key === besideKey.value) ? besideKey.value : null
      const [one, two] = await Promise.all([ask(key), other ? ask(other) : Promise.resolve(null)])
      if (mine !== asked) return
      disc.value = one
      beside.value = two
      refusal.value = null
      noting.target = one.target.label
      const declination = Math.round(one.declination_deg * 10) / 10
      if (declination !== rungs.declinationDeg) {
        rungs.declinationDeg = declination
        await rungs.load()
      }
    } catch (error) {
      refusal.value = error as Refusal
    }
  }
  return { targetKey, mode, besideKey, disc, beside, targets, refusal, load }
})
