import type { Schema } from '@/api/client'
import type { ToldReport } from '@/shell/ImportDialog.vue'

const OUTCOMES = { new: 'will be added', changed: 'will replace the one you have', same: 'is the same already', refused: 'is refused' }

/** What a report about a kit file says. */
export function toldKit (report: Schema<'ImportReport'>): ToldReport {
  const { rows, applied, refused } = report
  const words = applied
    ? `Done: ${report.new} added, ${report.changed} replaced.`
    : refused
      ? `Nothing can be imported: ${refused} of ${rows.length} rows are refused. Mend them in the file, then choose it again.`
      : `${report.new} new, ${report.changed} changed, ${report.same} the same.`
  return {
    words, isApplied: !!applied, isRefused: refused > 0, apply: `Import ${report.new + report.changed} items`,
    rows: rows.map(row => ({ ...row, kind: row.item, outcome: OUTCOMES[row.outcome] })),
  }
}
