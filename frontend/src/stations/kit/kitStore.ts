import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import { amplifiers, eyepieces, telescopes, type Amplifier, type Eyepiece, type Telescope } from '@/api/items'
import { call, type Refusal } from '@/api/client'
import { useEvening } from '@/shell/evening'
import { useNotices } from '@/shell/notices'
import { KINDS, type KindName } from './kitFields'

export const useKit = defineStore('kit', () => {
  const evening = useEvening()
  const notices = useNotices()
  const owned = shallowRef<{ telescopes: Telescope[], eyepieces: Eyepiece[], amplifiers: Amplifier[] } | null>(null)
  const refusal = shallowRef<Refusal | null>(null)
  const isEmpty = computed(() => owned.value !== null && Object.values(owned.value).every(items => items.length === 0))

  async function load () {
    try {
      const [ownTelescopes, ownEyepieces, ownAmplifiers] = await Promise.all([telescopes.list(), eyepieces.list(), amplifiers.list()])
      owned.value = { telescopes: ownTelescopes, eyepieces: ownEyepieces, amplifiers: ownAmplifiers }
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
  async function loadDemo () {
    await call('/kit/demo', { method: 'POST' })
    await changed()
  }
  return { owned, refusal, isEmpty, load, changed, save, remove, loadDemo }
})
