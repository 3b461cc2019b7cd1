import { defineStore } from 'pinia'
import { computed, watch } from 'vue'
import { call, type Schema } from '@/api/client'
import { planItems, type PlanItem } from '@/api/items'
import { useNotices } from '@/shell/notices'
import { useAsked } from '@/shell/useAsked'
import { useEvening } from './evening'

export type Plan = Schema<'Plan'>
export type Block = Schema<'Block'>

/** Tonight's plan: what is wished for, put in order by the server whenever something changes. */
export const usePlan = defineStore('plan', () => {
  const evening = useEvening()
  const notices = useNotices()
  const isPlanned = computed(() => !!evening.evening?.planned_from_utc)
  const { answer, refusal, load, isLoading } = useAsked(
    async () => isPlanned.value ? call<Plan | null>('/plan/schedule') : null, ['plan', 'evening', 'kit', 'clock'],
  )
  watch(
    [() => evening.evening?.planned_from_utc, () => evening.evening?.night?.date, () => evening.evening?.site?.id],
    () => void load(),
  )

  /** Do something to the plan and read it anew; what was refused is said, and gives false. */
  async function change (work: () => Promise<unknown>): Promise<boolean> {
    const isDone = await notices.attempt(work)
    await refresh()
    return isDone
  }
  async function refresh () {
    await evening.refresh()
    await load()
  }
  const add = (keys: readonly string[]) => change(() => call('/plan/schedule', { method: 'POST', json: { target_keys: keys } }))
  const again = () => change(() => call('/plan/schedule/again', { method: 'POST' }))
  async function alter (id: number, values: Partial<PlanItem>) {
    await change(async () => {
      const item = await planItems.one(id)
      if (item) await planItems.save(id, { ...item, ...values })
    })
  }
  async function remove (id: number) {
    const isGone = await change(async () => planItems.remove(await planItems.one(id) ?? { id }))
    if (!isGone) return
    notices.say('One target less in the plan.', async () => {
      await planItems.restore(id)
      await load()
    })
  }
  const has = (key: string) => !!answer.value && [...answer.value.blocks, ...answer.value.left_out].some(one => one.target_key === key)
  return { answer, refusal, isLoading, isPlanned, load, refresh, add, again, alter, remove, has }
})
