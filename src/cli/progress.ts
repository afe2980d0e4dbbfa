import type { SingleBar } from 'cli-progress'
import type { Progress } from '../explore/index.ts'
import type { World } from './world.ts'

/** Work shorter than this, in ms, shows no progress. */
const patience = 500

/** Where standard error is no terminal, it says so often, in ms, how far the work has come. */
const lineEvery = 10_000

/**
 * Shows progress on standard error, once work has lasted half a second: a bar where that is a terminal, else a line every
 * ten seconds.
 */
export class ProgressLine {
  readonly #world: World
  readonly #title: string
  readonly #since: number
  #lastLine: number
  #bar: SingleBar | null = null
  #starting = false
  #ended = false

  constructor(world: World, title: string) {
    this.#world = world
    this.#title = title
    this.#since = world.now()
    this.#lastLine = this.#since
  }

  show(progress: Progress): void {
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

  #say({ doing, situations, budget }: Progress): void {
    const now = this.#world.now()
    if (now - this.#lastLine < lineEvery) return
    this.#lastLine = now
    const seconds = String(Math.round((now - this.#since) / 1000))
    const far = situations === 0 ? '' : `, ${String(situations)} of at most ${String(budget)} situations`
    this.#world.err(`zintel: ${this.#title}: ${doing}${far}, ${seconds} s\n`)
  }

  async #start(progress: Progress): Promise<void> {
    this.#starting = true
    const { default: bars } = await import('cli-progress')
    if (this.#ended) return
    const columns = this.#world.progressColumns ?? 80
    const isNarrow = columns < 60 + this.#title.length
    const format = isNarrow
      ? '{doing}: {value} situations'
      : '{doing} {title} [{bar}] {value} of at most {total} situations'
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
