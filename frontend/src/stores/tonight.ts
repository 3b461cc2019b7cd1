import { defineStore } from 'pinia'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'

/** Tonight's list, for every station that shows a part of it. */
export const useTonight = defineStore('tonight', () => useAsked(
  () => call<Schema<'Tonight'> | null>('/plan/tonight'), ['evening', 'kit', 'plan', 'clock'],
))
