import type { Schema } from '@/api/client'
import type { ToldReport } from './ImportDialog.vue'

/** What a report about a file says; `apply` is what the button says that takes so many things. */
export const toldFile = (apply: (count: number) => string) => (report: Schema<'FileReport'>): ToldReport => ({
  words: report.applied ? `Done: ${report.words}` : report.words,
  isApplied: !!report.applied, isRefused: report.refused > 0, apply: apply(report.taken),
  rows: report.rows.map(row => ({ ...row, kind: '' })),
})
