import type { Schema } from '@/api/client'
import type { ToldReport } from '@/shell/ImportDialog.vue'

/** What a report about a file of hours says. */
export function toldHours (report: Schema<'WeatherReport'>): ToldReport {
  return {
    words: report.applied ? `Kept: ${report.words}` : report.words,
    isApplied: !!report.applied, isRefused: report.refused > 0, apply: `Use these ${report.hours} hours`,
    rows: report.rows.map(row => ({
      line: row.line, kind: '', name: row.hour, problems: row.problems,
      outcome: row.problems.length ? 'is refused' : `${row.values} values`,
    })),
  }
}
