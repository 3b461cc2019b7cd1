import { shallowRef } from 'vue'
import { useRegime } from './regime'

/** Something of the device's own is about to open, as bright as the device has it. */
export interface White {
  what: string
  open: () => void
}
/** What is announced just now, in the dark. */
export const announced = shallowRef<White | null>(null)
let isAllowed = false

function announce (what: string, open: () => void) {
  announced.value = {
    what,
    open: () => {
      announced.value = null
      isAllowed = true
      open()
      isAllowed = false
    },
  }
}

/** Open something white, such as a question of the browser; in the dark it is announced first. */
export function openWhite (what: string, open: () => void) {
  if (useRegime().regime === 'dark') announce(what, open)
  else open()
}

/** In the dark a file chooser or a print preview opens only after it was announced. */
export function watchWhite (host: Window = window) {
  const regime = useRegime()
  host.addEventListener('click', event => {
    const input = event.target
    if (regime.regime !== 'dark' || isAllowed || !(input instanceof HTMLInputElement) || input.type !== 'file') return
    event.preventDefault()
    event.stopPropagation()
    announce('The file chooser of this device', () => input.click())
  }, true)
  host.addEventListener('keydown', event => {
    if (regime.regime !== 'dark' || !(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== 'p') return
    event.preventDefault()
    announce('The print preview', () => host.print())
  }, true)
}
