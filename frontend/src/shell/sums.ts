import { defineStore } from 'pinia'
import { shallowRef } from 'vue'
import type { Schema } from '@/api/client'

export type Sum = Schema<'Sum'>

/** The sum that is open, or none; every figure of the page opens through here. */
export const useSums = defineStore('sums', () => {
  const open = shallowRef<Sum | null>(null)
  return { open }
})
