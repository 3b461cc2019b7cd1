import { computed, ref, toValue, watch, type ComputedRef, type MaybeRefOrGetter, type Ref } from 'vue'
import { useSize } from './width'

/** Rows drawn beyond what is seen, each way: enough for a turn of the wheel. */
const BEYOND = 12

export interface UseWindowReturn<T> {
  /** The rows that are drawn, and the room in px of those before and after them. */
  shown: ComputedRef<{ row: T, index: number }[]>
  beforePx: ComputedRef<number>
  afterPx: ComputedRef<number>
  onScroll: () => void
  /** Scroll until a row is seen. */
  reveal: (index: number) => void
}

/** Of many rows of one height only those that are seen, in a host that scrolls. */
export function useWindow<T> (rows: MaybeRefOrGetter<readonly T[]>, rowPx: MaybeRefOrGetter<number>, host: Ref<HTMLElement | null>): UseWindowReturn<T> {
  const { height } = useSize(host)
  const top = ref(0)
  const first = computed(() => Math.max(0, Math.floor(top.value / toValue(rowPx)) - BEYOND))
  const last = computed(() => Math.min(toValue(rows).length, Math.ceil((top.value + height.value) / toValue(rowPx)) + BEYOND))
  const shown = computed(() => toValue(rows).slice(first.value, last.value).map((row, n) => ({ row, index: first.value + n })))
  const beforePx = computed(() => first.value * toValue(rowPx))
  const afterPx = computed(() => (toValue(rows).length - last.value) * toValue(rowPx))
  const onScroll = () => { top.value = host.value?.scrollTop ?? 0 }
  watch(() => toValue(rows).length, onScroll, { flush: 'post' })
  function reveal (index: number) {
    const box = host.value
    if (!box) return
    const at = index * toValue(rowPx)
    if (at < box.scrollTop) box.scrollTop = at
    else if (at + 2 * toValue(rowPx) > box.scrollTop + box.clientHeight) box.scrollTop = at + 2 * toValue(rowPx) - box.clientHeight
    onScroll()
  }
  return { shown, beforePx, afterPx, onScroll, reveal }
}
