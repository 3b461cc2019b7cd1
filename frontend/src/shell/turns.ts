/** Work that must not overtake itself: each begins when the one before it has ended, however that went. */
export function inTurn () {
  let before: Promise<unknown> = Promise.resolve()
  return function next<T> (work: () => Promise<T>): Promise<T> {
    const mine = before.catch(() => undefined).then(work)
    before = mine
    return mine
  }
}
