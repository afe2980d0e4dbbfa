/** Runs work that is a generator to its end, without a pause. */
export function finish<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const next = work.next()
    if (next.done) return next.value
  }
}
