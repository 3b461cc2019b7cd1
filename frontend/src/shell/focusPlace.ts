import { nextTick, onBeforeUnmount, watch, type Ref } from 'vue'

const FIELDS = 'input:not([type="file"], [type="hidden"], [type="checkbox"], [type="radio"], [type="range"], [readonly], [disabled]), ' +
  'textarea:not([readonly], [disabled]), [role="combobox"]:not([aria-disabled="true"])'
const FIRST = `.v-overlay__content :is([autofocus], ${FIELDS})`
const OPEN = '.v-overlay--active[role="dialog"]'
/** Where the keys were last, outside of whatever lies over the page. */
let lastPlace: HTMLElement | null = null

/** Know where the keys are, so that they can come back there. */
export function watchFocus (host: Document = document) {
  host.addEventListener('focusin', event => {
    const at = event.target
    if (at instanceof HTMLElement || at instanceof SVGElement) if (!at.closest('.v-overlay')) lastPlace = at as HTMLElement
  })
}

const isSeen = (one: HTMLElement) => one.isConnected && one.checkVisibility() && !one.closest('[inert]')

/** The keys begin on the first field of what opens, as soon as there is one, and come back to where they were before. */
export function useFocusPlace (isOpen: Ref<boolean>, host: Document = document) {
  let observer: MutationObserver | null = null
  let place: HTMLElement | null = null
  const stop = () => {
    observer?.disconnect()
    observer = null
  }
  function begin (): boolean {
    const dialog = [...host.querySelectorAll<HTMLElement>(OPEN)].at(-1)
    const at = host.activeElement
    if (!dialog) return false
    // somebody went somewhere in it already
    if (at && dialog.contains(at) && !at.matches('.v-overlay__content, .v-overlay')) return true
    const first = [...dialog.querySelectorAll<HTMLElement>(FIRST)].find(isSeen)
    first?.focus({ preventScroll: true })
    return !!first
  }
  /** Where the keys are: nowhere, where a mouse opened it, so that Space stays the one large button. */
  function placeOfKeys (): HTMLElement | null {
    const at = host.activeElement
    if (!at || at === host.body || !at.matches(':focus-visible')) return null
    return at.closest('.v-overlay') ? lastPlace : at as HTMLElement
  }
  async function comeBack () {
    if (!place) return
    await nextTick()
    const at = host.activeElement
    if (at && at !== host.body && !at.closest('.v-overlay:not(.v-overlay--active)')) return
    const next = isSeen(place) ? place : host.querySelector<HTMLElement>('main')
    next?.focus({ preventScroll: true })
  }
  watch(isOpen, async (now, before) => {
    stop()
    if (now) {
      place = placeOfKeys()
      await nextTick()
      if (!isOpen.value || begin()) return
      observer = new MutationObserver(() => { if (begin()) stop() })
      observer.observe(host.body, { childList: true, subtree: true })
    } else if (before) await comeBack()
  }, { immediate: true, flush: 'post' })
  onBeforeUnmount(stop)
}
