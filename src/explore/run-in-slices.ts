/** How long work goes on, in ms, before others get their turn. */
export const longestSlice = 15

/** Thrown into work in slices where it is to end at once with what it knows. */
export class Interrupted extends Error {}

/** What work in slices needs from the page, the worker or the process it runs in. */
export interface RunInSlicesOptions<P> {
  /** Stops the work where it is `aborted`; an `AbortSignal` will do. */
  readonly signal?: { readonly aborted: boolean } | undefined
  /** Whether work that is stopped ends with what it knows until then; else it is just left. */
  readonly keepsWhatIsKnown?: boolean | undefined
  /** Told after each slice how far the work has come. */
  readonly onProgress?: ((progress: P) => void) | undefined
  /** The time in ms; `performance.now` will do. */
  readonly now: () => number
  /** Lets others have their turn: resolves once the work may go on. */
  readonly pause: () => Promise<void>
}

/** How work ended: with its result, or stopped, with the last that was known. */
export type RunOutcome<P, R> =
  { readonly done: true; readonly value: R } | { readonly done: false; readonly last: P | null }

/** Runs work that is a generator in slices of at most about 15 ms, until it is done or aborted. */
export async function runInSlices<P, R>(
  work: Generator<P, R>,
  options: RunInSlicesOptions<P>,
): Promise<RunOutcome<P, R>> {
  let last: P | null = null
  let since = options.now()
  for (;;) {
    if (options.signal?.aborted) return options.keepsWhatIsKnown ? interrupted(work, last) : { done: false, last }
    const next = work.next()
    if (next.done) return { done: true, value: next.value }
    last = next.value
    if (options.now() - since < longestSlice) continue
    options.onProgress?.(next.value)
    await options.pause()
    since = options.now()
  }
}

/** Ends work with what it knows; where it knows nothing yet, with the last that was told. */
function interrupted<P, R>(work: Generator<P, R>, last: P | null): RunOutcome<P, R> {
  try {
    let next = work.throw(new Interrupted())
    while (!next.done) next = work.next()
    return { done: true, value: next.value }
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return { done: false, last }
  }
}

/**
 * Runs a part of the work, telling at each of its pauses how far the whole has come. What is thrown in at a pause is thrown
 * into the part.
 */
export function* quietly<P, T>(part: Generator<undefined, T>, tell: () => P): Generator<P, T> {
  let next = part.next()
  while (!next.done) {
    let thrown: { readonly error: unknown } | null = null
    try {
      yield tell()
    } catch (error) {
      thrown = { error }
    }
    next = thrown ? part.throw(thrown.error) : part.next()
  }
  return next.value
}
