import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import {
  upkeeps, type Amplifier, type Diagonal, type Eyepiece, type Finder, type LightFilter, type Mount, type Telescope, type Upkeep,
} from '@/api/items'
import { call, type Refusal, type Schema } from '@/api/client'
import { useEvening } from '@/shell/evening'
import { useNotices } from '@/shell/notices'
import { KIND_NAMES, KINDS, type KindName } from './kitFields'

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
  const evening = useEvening()
  const notices = useNotices()
  const owned = shallowRef<Owned | null>(null)
  const allUpkeep = shallowRef<Upkeep[]>([])
  const due = shallowRef<Schema<'Due'>[]>([])
  const refusal = shallowRef<Refusal | null>(null)
  const isEmpty = computed(() => owned.value !== null && Object.values(owned.value).every(items => items.length === 0))

  async function load () {
    try {
      const [tasks, dueTasks, ...lists] = await Promise.all([
        upkeeps.list(), call<Schema<'Due'>[]>('/kit/due'), ...KIND_NAMES.map(kind => KINDS[kind].items.list()),
      ])
      owned.value = Object.fromEntries(KIND_NAMES.map((kind, n) => [kind, lists[n]])) as unknown as Owned
      allUpkeep.value = tasks
      due.value = dueTasks
      refusal.value = null
    } catch (error) {
      refusal.value = error as Refusal
    }
  }
  async function changed () {
    await Promise.all([load(), evening.refresh()])
  }
  /** Store an item; rejects with a `Refusal` for the form to show. */
  async function save (kind: KindName, id: number | null, item: Record<string, unknown>) {
    const { items } = KINDS[kind]
    const stored = id === null ? await items.add(item) : await items.change(id, item)
    await changed()
    return stored
  }
  async function remove (kind: KindName, id: number, name: string) {
    const { items } = KINDS[kind]
    await items.remove(id)
    await changed()
    notices.say(`${name} is off the bench.`, async () => {
      await items.restore(id)
      await changed()
    })
  }
  async function saveUpkeep (task: Upkeep) {
    await (task.id ? upkeeps.change(task.id, task) : upkeeps.add(task))
    await load()
  }
  async function removeUpkeep (task: Upkeep) {
    const id = task.id
    if (!id) return
    await upkeeps.remove(id)
    await load()
    notices.say('One task less.', async () => {
      await upkeeps.restore(id)
      await load()
    })
  }
  async function loadDemo () {
    await call('/kit/demo', { method: 'POST' })
    await changed()
  }
  return { owned, allUpkeep, due, refusal, isEmpty, load, changed, save, remove, saveUpkeep, removeUpkeep, loadDemo }
})
