import type { Bench, StepName } from '@/stores/bench'

/** The name of the draft of one step: of this evening, this place and this telescope alone. */
export function stepDraft (bench: Bench, step: StepName | string): string {
  return `setup.${step}.${bench.evening_date}.${bench.site.id}.${bench.telescope.id}`
}
