import { computed, watch, type Ref, type WritableComputedRef } from 'vue'
import { partOf, useDraft } from '@/shell/drafts'
import type { Bench, StepName } from '@/stores/bench'

/** The name of the draft of one step: of this evening, this place and this telescope alone. */
export function stepDraft (bench: Bench, step: StepName | string): string {
  return `setup.${step}.${bench.evening_date}.${bench.site.id}.${bench.telescope.id}`
}

export interface UseStepValuesReturn<T> {
  values: Ref<T>
  /** One of the values, to be read and written by itself. */
  part: <Key extends keyof T>(key: Key) => WritableComputedRef<T[Key]>
  /** What stands there was recorded: it is no draft any more. */
  settle: () => void
}

/**
 * What stands in a step: as somebody left it, else as it was recorded, else blank. What is recorded elsewhere is shown
 * here too unless something else was begun here; what a mishap spoiled is read anew.
 */
export function useStepValues<T extends object, Inputs = Record<string, unknown>> (
  props: { bench: Bench }, step: StepName, blank: () => T, recorded: (inputs: Inputs) => Partial<T>,
): UseStepValuesReturn<T> {
  const inputs = computed(() => {
    const one = props.bench.steps.find(each => each.name === step)
    return one && ['done', 'unsafe'].includes(one.state) ? one.inputs as Inputs | null : null
  })
  const draft = useDraft(() => stepDraft(props.bench, step), () => ({ ...blank(), ...(inputs.value ? recorded(inputs.value) : {}) }) as Record<string, unknown>)
  watch(() => JSON.stringify(inputs.value), draft.follow)
  const values = draft.values as unknown as Ref<T>
  return { values, part: key => partOf(values, key), settle: draft.settle }
}
