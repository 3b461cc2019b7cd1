import { shallowRef } from 'vue'

/** What is asked of the application and not answered yet, so that the page can say that it works. */
export interface Pending {
  since: number
  /** Only asked, and asked again by itself once it is given up; what is stored is waited for. */
  isAsked: boolean
}
/** After so long it is shown that something works, and after so long that it takes long, in ms. */
export const SHOWN_MS = 500
export const LONG_MS = 10_000

const all = new Set<Pending>()
export type Slowness = 'none' | 'works' | 'long'
/** How slow the slowest of all is. */
export const slowness = shallowRef<Slowness>('none')
/** Whether what takes long may be given up and asked for again. */
export const canAskAgain = shallowRef(false)
let timer: ReturnType<typeof setTimeout> | undefined

function look () {
  clearTimeout(timer)
  if (!all.size) {
    slowness.value = 'none'
    return
  }
  const now = performance.now()
  const ages = [...all].map(one => now - one.since)
  const oldest = Math.max(...ages)
  slowness.value = oldest >= LONG_MS ? 'long' : oldest >= SHOWN_MS ? 'works' : 'none'
  canAskAgain.value = [...all].every(one => one.isAsked || now - one.since < LONG_MS)
  const next = [...ages.map(age => SHOWN_MS - age), ...ages.map(age => LONG_MS - age)].filter(left => left > 0)
  if (next.length) timer = setTimeout(look, Math.min(...next) + 1)
}

/** Wait for something, counted among what works as long as it does. */
export async function counted<T> (isAsked: boolean, work: () => Promise<T>): Promise<T> {
  const one = { since: performance.now(), isAsked }
  all.add(one)
  look()
  try {
    return await work()
  } finally {
    all.delete(one)
    look()
  }
}
