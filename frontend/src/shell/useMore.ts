import { computed, ref, toValue, type ComputedRef, type MaybeRefOrGetter, type Ref } from 'vue'
import type { Refusal } from '@/api/client'
import type { Field } from './fields'

export interface UseMoreReturn {
  /** Whether everything is asked for, not only what most people know. */
  showsMore: Ref<boolean>
  /** The fields to show: those, and any that was refused. */
  shown: ComputedRef<Field[]>
}

/** The fields of a form of which some wait until somebody wants to say more. */
export function useMore (fields: MaybeRefOrGetter<readonly Field[]>, refusal: () => Refusal | null): UseMoreReturn {
  const showsMore = ref(false)
  const shown = computed(() => toValue(fields).filter(field => !field.more || showsMore.value || refusal()?.for(field.key)))
  return { showsMore, shown }
}
