/**
 * Nothing moves under a finger: while a control is held down, what the application sends waits until it is let go.
 * Otherwise a line that comes or goes takes the control away between down and up, and the press is lost.
 */
const CONTROLS = 'button, a, input, select, textarea, label, summary, .v-field, [role=button], [role=option], [role=menuitem]'
/** A finger that rests is no press: after so long what waits is shown all the same. */
export const LONGEST_MS = 3_000
/** So long after a finger went up its click may come. */
export const CLICK_MS = 100

const waiting: (() => void)[] = []
let isDown = false
let timer: ReturnType<typeof setTimeout> | undefined

function letGoIn (ms: number) {
  if (!isDown) return
  clearTimeout(timer)
  timer = setTimeout(() => {
    isDown = false
    for (const act of waiting.splice(0)) queueMicrotask(act)
  }, ms)
}

function press (event: PointerEvent) {
  const isControl = event.target instanceof Element && event.target.closest(CONTROLS) !== null
  if (!event.isPrimary || event.button !== 0 || !isControl) return
  isDown = true
  letGoIn(LONGEST_MS)
}

addEventListener('pointerdown', press, true)
addEventListener('pointerup', () => letGoIn(CLICK_MS), true)
addEventListener('click', () => letGoIn(0), true)
addEventListener('pointercancel', () => letGoIn(0), true)
addEventListener('blur', () => letGoIn(0)) // of the window alone: a field is left by pressing something else

/** Do something at once, or in its order as soon as nothing is held down. */
export function whenFree (act: () => void) {
  if (isDown) waiting.push(act)
  else act()
}

/** Wait until nothing is held down. */
export const free = () => new Promise<void>(whenFree)
