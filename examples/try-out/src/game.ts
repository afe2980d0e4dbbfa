import { type LevelPlay, type PreparedLevel, prepareLevel, startPlay, startProject } from 'zintel'
import { readLevel, readProject } from 'zintel/yaml'

/** What can be played, or why it cannot be. */
export type Opened =
  { readonly begin: () => LevelPlay; readonly error: null } | { readonly begin: null; readonly error: string }

/** Reads a level, or a project with its levels, and makes it ready to be played. */
export function openLevel(file: string, texts: Readonly<Record<string, string>>): Opened {
  const prepared = (name: string, at: string): PreparedLevel => prepareLevel(readLevel(texts[at] ?? '', name))
  try {
    if (!file.endsWith('.project.yaml')) {
      const level = prepared(file, file)
      return ready(() => startPlay(level))
    }
    const project = readProject(texts[file] ?? '', file)
    const folder = file.slice(0, file.lastIndexOf('/') + 1)
    const levels = Object.entries(project.value?.levels ?? {}).map(([name, level]) => {
      return [name, prepared(level.file, folder + level.file)] as const
    })
    return ready(() => startProject(project, Object.fromEntries(levels)))
  } catch (error) {
    return { begin: null, error: error instanceof Error ? error.message : String(error) }
  }
}

/** A play that can be begun: tried once, so that what is wrong is told at once. */
function ready(begin: () => LevelPlay): Opened {
  begin()
  return { begin, error: null }
}

const directions: Readonly<Record<string, readonly [number, number]>> = {
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  w: [0, 1],
  s: [0, -1],
  a: [-1, 0],
  d: [1, 0],
}

/** A play that is fed with real time and with keys held down, by one character at a time. */
export class Game {
  readonly play: LevelPlay
  /** The character that acts, by name. */
  who: string
  readonly #held = new Set<string>()
  #steered = '0 0'
  #slides = 0
  #stuckAt = ''

  constructor(play: LevelPlay) {
    this.play = play
    this.who = firstPlayer(play)
  }

  /** A key goes down or up; whether it is one of ours. */
  key(key: string, down: boolean): boolean {
    if (!Object.hasOwn(directions, key)) return false
    if (down) this.#held.add(key)
    else this.#held.delete(key)
    return true
  }

  /** Forgets what is held down, as when the page loses the keyboard. */
  forgetKeys(): void {
    this.#held.clear()
  }

  /** Another character acts from here on. */
  switchTo(who: string): void {
    this.play.steer(this.who, null)
    this.#steered = '0 0'
    this.who = who
  }

  walkTo(spot: readonly [number, number]): boolean {
    return this.play.walkTo(this.who, spot)
  }

  /** Presses and keeps pressing, until `letGo`. */
  pressDown(): void {
    if (this.play.view(this.who).popup !== null) this.play.dismiss(this.who)
    else this.play.hold(this.who)
  }

  letGo(): void {
    this.play.release(this.who)
  }

  /** Lets real time pass, in ms; a long gap counts as a tenth of a second. */
  pass(ms: number): void {
    this.#steer()
    const before = this.play.levelName
    this.play.advance(Math.min(ms, 100))
    if (this.play.levelName === before) return
    if (!this.play.characters.includes(this.who)) this.who = firstPlayer(this.play)
    this.#steered = '0 0'
  }

  /** Steers where the keys say; at a wall it slides along it. */
  #steer(): void {
    if (this.play.view(this.who).popup !== null) return
    let [x, y] = [0, 0]
    for (const key of this.#held) {
      x += directions[key]?.[0] ?? 0
      y += directions[key]?.[1] ?? 0
    }
    const wanted = `${String(Math.sign(x))} ${String(Math.sign(y))}`
    const isNew = wanted !== this.#steered
    if (isNew) this.#slides = 0
    else if (wanted === '0 0' || this.play.character(this.who).walking) return
    else {
      // Stopped at a wall: of a slanting direction first one part is tried, then the other, as long as that helps.
      const spot = this.play.character(this.who).position.join()
      if (x === 0 || y === 0 || (this.#slides === 0 && spot === this.#stuckAt)) return
      if (this.#slides === 0) this.#stuckAt = spot
      this.#slides = (this.#slides + 1) % 3
    }
    this.#steered = wanted
    if (wanted === '0 0') this.play.steer(this.who, null)
    else this.play.steer(this.who, this.#slides === 1 ? [x, 0] : this.#slides === 2 ? [0, y] : [x, y])
  }
}

function firstPlayer({ level }: LevelPlay): string {
  const { characters } = level.contents
  return (characters.find(({ role }) => role === 'player') ?? characters[0])?.name ?? ''
}
