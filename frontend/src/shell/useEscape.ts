import { onBeforeUnmount, onMounted, toValue, type MaybeRefOrGetter } from 'vue'

/** Close with Escape from the first moment on; a drop-down that lies above takes the key for itself. */
export function useEscape (isOpen: MaybeRefOrGetter<boolean>, close: () => void, host: Window = window) {
  function onKey (event: KeyboardEvent) {
    if (event.key !== 'Escape' || !toValue(isOpen)) return
    if (host.document.querySelectorAll('.v-overlay--active').length <= 1) close()
  }
  onMounted(() => host.addEventListener('keydown', onKey))
  onBeforeUnmount(() => host.removeEventListener('keydown', onKey))
}
