import { defineStore } from 'pinia'
import { computed } from 'vue'
import {
  upkeeps, type Amplifier, type Diagonal, type Eyepiece, type Finder, type LightFilter, type Mount, type Telescope, type Upkeep,
} from '@/api/items'
import { call, type Schema } from '@/api/client'
import { useNotices } from '@/shell/notices'
import { useParts, type Parts } from '@/shell/useParts'
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

interface Besides {
  allUpkeep: Upkeep[]
  due: Schema<'Due'>[]
  tubes: Schema<'TubeShape'>[]
  kinds: Schema<'Kinds'>
}
/** Each kind of thing is asked for by itself. */
const listed = () => Object.fromEntries(KIND_NAMES.map(kind => [
  kind, { title: KINDS[kind].plural.toLowerCase(), ask: () => KINDS[kind].items.list() },
])) as unknown as Parts<Owned>

export const useKit = defineStore('kit', () => {
  const notices = useNotices()
  const { answer, refusal, load } = useParts<Owned & Besides>({
    allUpkeep: { title: 'upkeep', ask: () => upkeeps.list() },
    due: { title: 'what is due', ask: () => call('/kit/due') },
    tubes: { title: 'the drawings of the telescopes', ask: () => call('/kit/tubes') },
    kinds: { title: 'the kinds there are', ask: () => call('/kit/kinds') },
    ...listed(),
  }, ['kit'])
  const owned = computed(() => answer.value && Object.fromEntries(
    KIND_NAMES.map(kind => [kind, answer.value?.[kind] ?? []]),
  ) as unknown as Owned)
  const allUpkeep = computed(() => answer.value?.allUpkeep ?? [])
  const due = computed(() => answer.value?.due ?? [])
  const tubes = computed(() => answer.value?.tubes ?? [])
  const kinds = computed(() => answer.value?.kinds ?? null)
  /** Nothing is owned at all; a kind that could not be read yet may hold something. */
  const isEmpty = computed(() => KIND_NAMES.every(kind => answer.value?.[kind]?.length === 0))

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
