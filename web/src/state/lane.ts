/** One thing at a time: each waits until the one before it is through, well or badly. */
export function makeLane() {
  let last: Promise<unknown> = Promise.resolve()

  return function inLane<T>(work: () => Promise<T>): Promise<T> {
    const mine = last.then(work)
    last = mine.catch(() => undefined)
    return mine
  }
}
