import { asRefusal } from '@/api/client'
import type { Observation } from '@/api/items'
import { useEvening } from '@/stores/evening'
import { useOutbox } from '@/stores/outbox'

export const NOTES = '/journal/observations'

/** Store a note; a new one that nobody takes just now is kept here, and told once when somebody answers. */
export async function keepLater (
  id: number | null, item: Record<string, unknown>, store: (id: number | null, item: Record<string, unknown>) => Promise<Observation>,
): Promise<Observation> {
  try {
    return await store(id, item)
  } catch (error) {
    if (id !== null || !asRefusal(error).isLost) throw error
    const json = { ...item, id: null }
    useOutbox().add({ key: String(item.sent_key), path: NOTES, json, rehearsal: useEvening().evening?.rehearsal ?? '', keeps: true })
    return json as unknown as Observation
  }
}
