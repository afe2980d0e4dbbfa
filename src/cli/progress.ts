import type { SingleBar } from 'cli-progress'
import type { Progress } from '../explore/index.ts'
import type { World } from './world.ts'

/** Work shorter than this, in ms, shows no progress. */
const patience = 500

/** Shows progress on standard error, where that is a terminal, once work has lasted half a second. */
export class ProgressLine {
  readonly #world: World
  readonly #title: string
  readonly #since: number
  #bar: SingleBar | null = null
  #starting = false
  #ended = false

  constructor(world: World, title: string) {
    this.#world = world
    this.#title = title
    this.#since = world.now()
  }

  show(progress: Progress): void {
    if (this.#world.progressColumns === null || this.#world.now() - this.#since < patience) return
    if (!this.#bar) {
      if (!this.#starting) void this.#start(progress)
      return
    }
    this.#bar.update(Math.min(progress.situations, progress.budget), { doing: progress.doing, title: this.#title })
  }

  end(): void {
    this.#ended = true
    this.#bar?.stop()
    this.#bar = null
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
