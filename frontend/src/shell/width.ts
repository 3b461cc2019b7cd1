import { onBeforeUnmount, ref, watch, type Ref } from 'vue'

/** The width in px of an element, followed as it changes. */
export function useWidth (element: Ref<HTMLElement | null>): Ref<number> {
  return useSize(element).width
}

/** Width and height in px of an element, followed as they change. */
export function useSize (element: Ref<HTMLElement | null>): { width: Ref<number>, height: Ref<number> } {
  const width = ref(0)
  const height = ref(0)
  const observer = new ResizeObserver(([entry]) => {
    width.value = entry?.contentRect.width ?? 0
    height.value = entry?.contentRect.height ?? 0
  })
  watch(element, (now, before) => {
    if (before) observer.unobserve(before)
    if (now) observer.observe(now)
  }, { immediate: true, flush: 'post' })
  onBeforeUnmount(() => observer.disconnect())
  return { width, height }
}
