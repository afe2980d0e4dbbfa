import type { SingleBar } from 'cli-progress'
import type { World } from './world.ts'

/** Work shorter than this, in ms, shows no progress. */
const patience = 500

/** Where standard error is no terminal, it says so often, in ms, how far the work has come. */
const lineEvery = 10_000

/** How far work has come: of what is counted, so many of at most so many. */
export interface Done {
  readonly doing: string
  readonly situations: number
  readonly budget: number
}

/**
 * Shows progress on standard error, once work has lasted half a second: a bar where that is a terminal, else a line every
 * ten seconds.
 */
export class ProgressLine {
  readonly #world: World
  readonly #title: string
  /** What is counted. */
  readonly #what: 'situations' | 'files'
  readonly #since: number
  #lastLine: number
  #bar: SingleBar | null = null
  #starting = false
  #ended = false

  constructor(world: World, title: string, what: 'situations' | 'files' = 'situations') {
    this.#world = world
    this.#title = title
    this.#what = what
    this.#since = world.now()
    this.#lastLine = this.#since
  }

  show(progress: Done): void {
    if (this.#world.isSilent) return
    if (this.#world.progressColumns === null) this.#say(progress)
    else if (this.#bar) {
      this.#bar.update(Math.min(progress.situations, progress.budget), { doing: progress.doing, title: this.#title })
    } else if (!this.#starting && this.#world.now() - this.#since >= patience) void this.#start(progress)
  }

  end(): void {
    this.#ended = true
    this.#bar?.stop()
    this.#bar = null
  }

  get #of(): string {
    return this.#what === 'files' ? 'of' : 'of at most'
  }

  #say({ doing, situations, budget }: Done): void {
    const now = this.#world.now()
    if (now - this.#lastLine < lineEvery) return
    this.#lastLine = now
    const seconds = String(Math.round((now - this.#since) / 1000))
    const far = situations === 0 ? '' : `, ${String(situations)} ${this.#of} ${String(budget)} ${this.#what}`
    this.#world.err(`zintel: ${this.#title}: ${doing}${far}, ${seconds} s\n`)
  }

  async #start(progress: Done): Promise<void> {
    this.#starting = true
    const { default: bars } = await import('cli-progress')
    if (this.#ended) return
    const columns = this.#world.progressColumns ?? 80
    const isNarrow = columns < 60 + this.#title.length
    const format = isNarrow
      ? `{doing}: {value} ${this.#what}`
      : `{doing} {title} [{bar}] {value} ${this.#of} {total} ${this.#what}`
    this.#bar = new bars.SingleBar({
      format,
      stream: process.stderr,
      clearOnComplete: true,
      hideCursor: true,
      barCompleteChar: '=',
      barIncompleteChar: ' ',
      barsize: Math.max(8, Math.min(24, columns - 55 - this.#title.length)),
    })
    this.#bar.start(progress.budget, progress.situations, { doing: progress.doing, title: this.#title })
  }
}
