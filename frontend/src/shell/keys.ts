import { onBeforeUnmount, onMounted } from 'vue'

/** What each key does, in words; the same list is shown and bound. */
export const KEYS = [
  { keys: ['1', '2', '3', '4', '5', '6', '7'], words: 'Go to station 1 to 7' },
  { keys: [','], words: 'One rung down' },
  { keys: ['.'], words: 'One rung up' },
  { keys: ['n'], words: 'Next light regime' },
  { keys: [' '], words: 'Start or stop the drift timer' },
  { keys: ['o'], words: 'Note an observation' },
  { keys: ['/'], words: 'Find a target' },
  { keys: ['a'], words: 'Plan again from now' },
  { keys: ['?'], words: 'This list of keys' },
] as const
/** What a key does at the eyepiece besides; Space and Enter are the one large button there. */
export const EYEPIECE_KEYS = [
  { keys: [' ', 'Enter'], words: 'The one large button' },
  { keys: ['s'], words: 'Dimmer and softer: one rung back' },
  { keys: ['e'], words: 'Enough: write it down' },
  { keys: ['c'], words: 'It is in the middle again' },
  { keys: ['l'], words: 'This target later' },
  { keys: ['k'], words: 'Skip this target' },
  { keys: ['x'], words: 'White light seen' },
  { keys: ['p'], words: 'The next person looks' },
  { keys: ['d'], words: 'Time a drift' },
  { keys: ['b'], words: 'Stuck: what is wrong?' },
] as const
interface Bound { keys: readonly string[] }

const TYPING = 'input:not([type="checkbox"], [type="radio"], [type="range"], [type="file"], [type="button"], [type="submit"]), textarea, select, [contenteditable="true"], [role="combobox"], [role="listbox"].v-list'
const PRESSABLE = 'input, button, a, [role="button"], [role="switch"], [role="option"], summary'

const LEAVING = '.v-overlay:not(.v-overlay--active)'

/**
 * Call `act` with every bound key, except while somebody types, a dialog or a menu is open, or a modifier is held.
 * A dialog that was closed and only fades out no longer holds the keys back, nor does the field left in it.
 */
export function useKeys (act: (key: string) => void, bound: readonly Bound[] = KEYS, host: Window = window) {
  const known = new Set<string>(bound.flatMap(entry => entry.keys))
  function onKey (event: KeyboardEvent) {
    const at = event.target instanceof Element ? event.target : null
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return
    if (at?.closest(TYPING) && !at.closest(LEAVING)) return
    if (host.document.querySelector('.v-overlay--active')) return
    if ([' ', 'Enter'].includes(event.key) && at?.closest(PRESSABLE) && !at.closest(LEAVING)) return
    // with Caps Lock on it is the same key
    const key = event.key.length === 1 ? event.key.toLowerCase() : event.key
    if (!known.has(key)) return
    event.preventDefault()
    act(key)
  }
  onMounted(() => host.addEventListener('keydown', onKey))
  onBeforeUnmount(() => host.removeEventListener('keydown', onKey))
}
