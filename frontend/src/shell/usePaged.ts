import { computed, getCurrentScope, onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { asRefusal, type Refusal } from '@/api/client'
import { useTopics, type Topic } from '@/stores/events'

interface Page<R> { rows: readonly R[], isAll: boolean }

/**
 * A long list, asked for page by page as it is scrolled; `ask` gets the last row that is had, or null for the first page.
 * When one of some topics changed it is read anew, as far as it had been read.
 */
export function usePaged<R, A> (
  ask: (last: R | null) => Promise<A>, read: (answer: A) => Page<R>, topics: readonly Topic[],
) {
  const rows = shallowRef<readonly R[]>([]) as Ref<readonly R[]>
  const first = shallowRef(null) as Ref<A | null>
  const isAll = ref(false)
  const refusal = shallowRef<Refusal | null>(null)
  const isLoading = ref(false)
  let asked = 0

  /** Read from the start until at least so many rows are there. */
  async function load (least = 1) {
    const mine = ++asked
    isLoading.value = true
    let found: readonly R[] = []
    try {
      let begun: A | null = null
      for (;;) {
        const answer = await ask(found.at(-1) ?? null)
        if (mine !== asked) return
        begun ??= answer
        const page = read(answer)
        found = [...found, ...page.rows]
        isAll.value = page.isAll
        if (page.isAll || found.length >= least) break
      }
      first.value = begun
      rows.value = found
      refusal.value = null
    } catch (error) {
      if (mine === asked) refusal.value = asRefusal(error)
    } finally {
      if (mine === asked) isLoading.value = false
    }
  }
  /** Read the next page, unless one is being read. */
  async function more () {
    if (isLoading.value || isAll.value || !rows.value.length) return
    const mine = ++asked
    isLoading.value = true
    try {
      const page = read(await ask(rows.value.at(-1) ?? null))
      if (mine !== asked) return
      rows.value = [...rows.value, ...page.rows]
      isAll.value = page.isAll
    } catch (error) {
      if (mine === asked) refusal.value = asRefusal(error)
    } finally {
      if (mine === asked) isLoading.value = false
    }
  }
  /** Put on what stands at the end of the list: when it comes into sight the next page is read. */
  const end = ref<HTMLElement | null>(null)
  const watcher = new IntersectionObserver(entries => { if (entries.some(one => one.isIntersecting)) void more() }, { rootMargin: '600px' })
  watch([end, rows], ([now]) => {
    watcher.disconnect()
    if (now) watcher.observe(now)
  }, { flush: 'post' })
  if (getCurrentScope()) onScopeDispose(() => watcher.disconnect())
  if (topics.length) useTopics(topics, () => { if (asked) void load(rows.value.length) })
  const isAsked = computed(() => first.value !== null || refusal.value !== null)
  return { rows, first, isAll, isAsked, isLoading, refusal, end, load, more }
}
