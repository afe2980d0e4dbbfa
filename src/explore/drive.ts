/** How long work goes on, in ms, before others get their turn. */
export const longestSlice = 15

/** What work in slices needs from the page, the worker or the process it runs in. */
export interface DriveOptions<P> {
  /** Stops the work where it is `aborted`; an `AbortSignal` will do. */
  readonly signal?: { readonly aborted: boolean } | undefined
  /** Told after each slice how far the work has come. */
  readonly onProgress?: ((progress: P) => void) | undefined
  /** The time in ms; `performance.now` will do. */
  readonly now: () => number
  /** Lets others have their turn: resolves once the work may go on. */
  readonly pause: () => Promise<void>
}

/** How work ended: with its result, or stopped, with the last that was known. */
export type Driven<P, R> =
  { readonly done: true; readonly value: R } | { readonly done: false; readonly last: P | null }

/** Runs work that is a generator in slices of at most about 15 ms, until it is done or aborted. */
export async function drive<P, R>(work: Generator<P, R>, options: DriveOptions<P>): Promise<Driven<P, R>> {
  let last: P | null = null
  let since = options.now()
  for (;;) {
    if (options.signal?.aborted) {
      return { done: false, last }
    }
    const next = work.next()
    if (next.done) return { done: true, value: next.value }
    last = next.value
    if (options.now() - since < longestSlice) continue
    options.onProgress?.(next.value)
    await options.pause()
    since = options.now()
  }
}

/** Runs a part of the work, telling at each of its pauses how far the whole has come. */
export function* quietly<P, T>(part: Generator<undefined, T>, tell: () => P): Generator<P, T> {
  for (;;) {
    const next = part.next()
    if (next.done) return next.value
    yield tell()
  }
}
