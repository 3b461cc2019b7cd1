import { defineAsyncComponent, shallowRef, watchEffect, type Component, type Ref } from 'vue'
import { counted } from '@/api/pending'
import PartMissing from './PartMissing.vue'

type Load = () => Promise<unknown>
/** Parts that are not needed at first sight, in the order they are likely to be wanted. */
const later: Load[] = []

/** A part of the page whose code comes when it is first wanted, or in a quiet moment before. */
export function lazily<T extends Component> (load: () => Promise<{ default: T }>): T {
  alsoLater(load)
  // `defineAsyncComponent` gives a component with the same props; where its code does not come it says so
  return defineAsyncComponent({ loader: () => counted(false, load), errorComponent: PartMissing, delay: 0 }) as unknown as T
}

/** True from the first time on that something is open: what was opened once stays, with its words. */
export function onceOpen (isOpen: () => boolean): Ref<boolean> {
  const was = shallowRef(false)
  watchEffect(() => { if (isOpen()) was.value = true })
  return was
}

/** The sheet of a note; at the eyepiece it is there from the start, for nobody may answer when it is wanted. */
export const loadNoteSheet = () => import('./NoteSheet.vue')

/** Have the code of something ready in a quiet moment. */
export function alsoLater (...loads: Load[]) {
  later.push(...loads)
  goOn()
}

/** So long after the first sight what is wanted later is fetched: on a slow way the first station comes first. */
const LATER_MS = 4_000
/** Goes on fetching; nothing before the first sight. */
let goOn = () => {}

/** Fetch what is wanted later, one after the other while the page rests: it is there when nobody answers any more. */
export function fetchAhead (host: Window = window) {
  const rest = (act: () => void) => 'requestIdleCallback' in host ? host.requestIdleCallback(act, { timeout: 4_000 }) : setTimeout(act, 200)
  let isFetching = false
  function next () {
    const load = later.shift()
    isFetching = !!load
    if (load) void load().catch(() => {}).finally(() => rest(next))
  }
  setTimeout(() => {
    goOn = () => { if (!isFetching) rest(next) }
    goOn()
  }, LATER_MS)
}
