/** Runs work that is a generator to its end, without a pause. */
export function finish<T>(work: Generator<unknown, T>): T {
  for (;;) {
    const next = work.next()
    if (next.done) return next.value
  }
}

/** Makes something of each of a list, with a pause now and then. */
export function* mapped<T, R>(all: readonly T[], make: (one: T, index: number) => R): Generator<undefined, R[]> {
  const made: R[] = []
  for (const [i, one] of all.entries()) {
    made.push(make(one, i))
    if (i % 8 === 7) yield
  }
  return made
}
