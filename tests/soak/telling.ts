/** Milliseconds between two lines. */
const pause = 60_000

/** Tells how far a long run has come: its counts, as a line on standard error each minute. */
export function minutely(what: string): (counts: object) => void {
  let told = performance.now()
  return (counts) => {
    if (performance.now() - told < pause) return
    told = performance.now()
    process.stderr.write(`${what}: ${JSON.stringify(counts)}\n`)
  }
}
