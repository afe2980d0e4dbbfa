import { expandLevel, Journey, makeStage, Play, type Stage } from 'zintel'
import { readLevel, readProject } from 'zintel/yaml'

/** What can be played, or why it cannot be. */
export type Opened =
  { readonly begin: () => Stage | Journey; readonly errors: null } | { readonly begin: null; readonly errors: string[] }

/** Reads a level, or a project with its levels, and makes it ready to be played. */
export function openLevel(file: string, texts: Readonly<Record<string, string>>): Opened {
  const text = texts[file] ?? ''
  if (!file.endsWith('.project.yaml')) {
    const stage = stageOf(file, text)
    return Array.isArray(stage) ? { begin: null, errors: stage } : { begin: () => stage, errors: null }
  }
  const reading = readProject(text, file)
  const project = reading.value
  if (!project) return { begin: null, errors: reading.diagnostics.map(({ message }) => message) }
  const folder = file.slice(0, file.lastIndexOf('/') + 1)
  const stages: Record<string, Stage> = {}
  for (const [name, level] of Object.entries(project.levels)) {
    const stage = stageOf(level.file, texts[folder + level.file] ?? '')
    if (Array.isArray(stage)) return { begin: null, errors: stage }
    stages[name] = stage
  }
  return { begin: () => new Journey(project, stages), errors: null }
}

function stageOf(file: string, text: string): Stage | string[] {
  const reading = readLevel(text, file)
  if (!reading.value) return reading.diagnostics.map(({ message }) => message)
  return makeStage(expandLevel(reading.value, reading.source))
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
  /** The character that acts, by index. */
  who: number
  readonly #journey: Journey | null
  #play: Play
  readonly #held = new Set<string>()
  #steered = '0 0'
  #slides = 0
  #stuckAt = ''
  #left = 0

  constructor(begin: Stage | Journey) {
    this.#journey = begin instanceof Journey ? begin : null
    this.#play = begin instanceof Journey ? begin.play : new Play(begin)
    this.who = this.play.stage.tables.firstPlayer
  }

  /** The play of the level that one is in. */
  get play(): Play {
    return this.#play
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
  switchTo(who: number): void {
    this.play.steer(this.who, null)
    this.#steered = '0 0'
    this.who = who
  }

  walkTo(spot: readonly [number, number]): boolean {
    return this.play.walkTo(this.who, spot)
  }

  /** Presses and keeps pressing, until `letGo`. */
  pressDown(): void {
    if (this.play.telling.popupOf(this.who)) this.play.dismiss(this.who)
    else this.play.hold(this.who)
  }

  letGo(): void {
    this.play.release(this.who)
  }

  /** Lets real time pass, in ms; a long gap counts as a tenth of a second. */
  pass(ms: number): void {
    this.#steer()
    this.#left += Math.min(ms, 100)
    const whole = Math.floor(this.#left)
    this.#left -= whole
    this.play.advance(whole)
    if (!this.#journey?.follow()) return
    const { name } = this.play.stage.expanded.characters[this.who] ?? { name: '' }
    this.#play = this.#journey.play
    const same = this.play.stage.expanded.characters.findIndex((one) => one.name === name)
    this.who = same < 0 ? this.play.stage.tables.firstPlayer : same
    this.#steered = '0 0'
  }

  /** Steers where the keys say; at a wall it slides along it. */
  #steer(): void {
    if (this.play.telling.popupOf(this.who)) return
    let [x, y] = [0, 0]
    for (const key of this.#held) {
      x += directions[key]?.[0] ?? 0
      y += directions[key]?.[1] ?? 0
    }
    const wanted = `${String(Math.sign(x))} ${String(Math.sign(y))}`
    const isNew = wanted !== this.#steered
    if (isNew) this.#slides = 0
    else if (wanted === '0 0' || this.play.isWalking(this.who)) return
    else {
      // Stopped at a wall: of a slanting direction first one part is tried, then the other, as long as that helps.
      const spot = this.play.spotOf(this.who).join()
      if (x === 0 || y === 0 || (this.#slides === 0 && spot === this.#stuckAt)) return
      if (this.#slides === 0) this.#stuckAt = spot
      this.#slides = (this.#slides + 1) % 3
    }
    this.#steered = wanted
    if (wanted === '0 0') this.play.steer(this.who, null)
    else this.play.steer(this.who, this.#slides === 1 ? [x, 0] : this.#slides === 2 ? [0, y] : [x, y])
  }
}
