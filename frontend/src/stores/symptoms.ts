import { defineStore } from 'pinia'
import { call, type Schema } from '@/api/client'
import { useAsked } from '@/shell/useAsked'

/** The symptom finder, whole: once it is here it asks on while nobody answers. */
export const useSymptoms = defineStore('symptoms', () => {
  const { answer: tree, refusal, load } = useAsked(() => call<Schema<'SymptomTree'>>('/practice/symptoms'))
  const fetch = () => { if (!tree.value) void load() }
  return { tree, refusal, fetch }
})
