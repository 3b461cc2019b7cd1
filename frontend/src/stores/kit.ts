import { defineStore } from 'pinia'
import { computed } from 'vue'
import {
  upkeeps, type Amplifier, type Diagonal, type Eyepiece, type Finder, type LightFilter, type Mount, type Telescope, type Upkeep,
} from '@/api/items'
import { call, type Schema } from '@/api/client'
import { useNotices } from '@/shell/notices'
import { useAsked } from '@/shell/useAsked'
import { KIND_NAMES, KINDS, type KindName } from '@/stations/kit/kitFields'

export interface Owned {
  telescope: Telescope[]
  eyepiece: Eyepiece[]
  amplifier: Amplifier[]
  diagonal: Diagonal[]
  finder: Finder[]
  mount: Mount[]
  light_filter: LightFilter[]
}

export const useKit = defineStore('kit', () => {
  const notices = useNotices()
  const { answer, refusal, load } = useAsked(async () => {
    const [allUpkeep, due, tubes, kinds, ...lists] = await Promise.all([
      upkeeps.list(), call<Schema<'Due'>[]>('/kit/due'), call<Schema<'TubeShape'>[]>('/kit/tubes'), call<Schema<'Kinds'>>('/kit/kinds'),
      ...KIND_NAMES.map(kind => KINDS[kind].items.list()),
    ])
    const owned = Object.fromEntries(KIND_NAMES.map((kind, n) => [kind, lists[n]])) as unknown as Owned
    return { owned, allUpkeep, due, tubes, kinds }
  }, ['kit'])
  const owned = computed(() => answer.value?.owned ?? null)
  const allUpkeep = computed(() => answer.value?.allUpkeep ?? [])
  const due = computed(() => answer.value?.due ?? [])
  const tubes = computed(() => answer.value?.tubes ?? [])
  const kinds = computed(() => answer.value?.kinds ?? null)
  const isEmpty = computed(() => owned.value !== null && Object.values(owned.value).every(items => items.length === 0))

  /** Store an item; rejects with a `Refusal` for the form to show. */
  const save = (kind: KindName, id: number | null, item: Record<string, unknown>) => KINDS[kind].items.save(id, item)
  async function remove (kind: KindName, item: { id?: number | null, version?: number | null, name: string }) {
    const { items } = KINDS[kind]
    const id = item.id ?? 0
    await items.remove(item)
    notices.say(`${item.name} is off the bench.`, () => items.restore(id))
  }
  async function removeUpkeep (task: Upkeep) {
    const id = task.id
    if (!id) return
    await upkeeps.remove(task)
    notices.say('One task less.', () => upkeeps.restore(id))
  }
  const loadDemo = () => call('/kit/demo', { method: 'POST' })
  return { owned, allUpkeep, due, tubes, kinds, refusal, isEmpty, load, save, remove, removeUpkeep, loadDemo }
})
