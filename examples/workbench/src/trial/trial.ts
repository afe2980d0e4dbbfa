import type { Help, LevelPlay, SavedPlay } from 'zintel'

export type Spot = readonly [number, number]

/** What somebody does in a play. */
export type Act =
  | { readonly do: 'press'; readonly way: string | null; readonly chance: string | null }
  | { readonly do: 'hold' | 'release' | 'dismiss' }
  | { readonly do: 'choose'; readonly option: string }
  | { readonly do: 'dial'; readonly on: string; readonly wheel: number; readonly to: number }
  | { readonly do: 'face'; readonly target: string | Spot }
  | { readonly do: 'steer'; readonly towards: Spot | null }
  | { readonly do: 'walk-to'; readonly target: string | Spot }
  | { readonly do: 'walk-along'; readonly corners: readonly Spot[] }
  /** A step for trying things out only. */
  | { readonly do: 'help'; readonly help: Help }

/** What is done, by whom and when, in milliseconds of the play. */
export interface Input {
  readonly at: number
  readonly who: string
  readonly act: Act
}

/** How often the play is kept as it is, so that one can go back to it, in milliseconds. */
const keepEvery = 1000

interface Kept {
  readonly at: number
  /** How many inputs had been given. */
  readonly inputs: number
  readonly saved: SavedPlay
}

/**
 * A play that can go back to any moment, and on from there: as it went, or differently. Every input is kept with its time; going back takes
 * up the last moment that was kept, and gives the inputs since then once more.
 */
export class Trial {
  readonly play: LevelPlay
  #inputs: Input[] = []
  /** How many of the inputs were given in the play as it stands. */
  #given = 0
  #kept: Kept[] = []
  /** The latest moment that was come to, in milliseconds. */
  #end = 0

  constructor(play: LevelPlay) {
    this.play = play
    this.#keep()
  }

  get now(): number {
    return this.play.time
  }

  /** The latest moment that was come to: later than now where one has gone back. */
  get end(): number {
    return Math.max(this.#end, this.now)
  }

  /** What was done, in order; those after now were done before one went back. */
  get inputs(): readonly Input[] {
    return this.#inputs
  }

  /** Does something now. What was done after now before one went back is forgotten: it goes on differently. */
  act(who: string, act: Act): boolean {
    if (this.#given < this.#inputs.length || this.now < this.#end) {
      this.#inputs.length = this.#given
      this.#kept = this.#kept.filter(({ at }) => at <= this.now)
      this.#end = this.now
    }
    this.#inputs.push({ at: this.now, who, act })
    this.#given = this.#inputs.length
    return done(this.play, who, act)
  }

  /** Lets whole milliseconds pass. What was done meanwhile, before one went back, is done again. */
  advance(ms: number): void {
    const until = this.now + ms
    for (;;) {
      const next = this.#inputs[this.#given]
      if (!next || next.at > until) break
      this.#pass(next.at - this.now)
      this.#given++
      if (this.play.characters.includes(next.who)) done(this.play, next.who, next.act)
    }
    this.#pass(until - this.now)
    this.#end = Math.max(this.#end, this.now)
  }

  #pass(ms: number): void {
    let left = ms
    while (left > 0 && this.play.ended === null) {
      const last = this.#kept.at(-1)?.at ?? 0
      const next = Math.max(1, Math.min(left, last + keepEvery - this.now))
      this.play.advance(next)
      left -= next
      if (this.now >= last + keepEvery) this.#keep()
    }
  }

  /** Goes to a moment that was come to before, in milliseconds. */
  goTo(ms: number): void {
    const wanted = Math.round(Math.min(Math.max(0, ms), this.end))
    const end = this.end
    if (wanted < this.now) {
      const from = this.#kept.findLast(({ at }) => at <= wanted) ?? this.#kept[0]!
      this.play.restore(from.saved)
      this.#given = from.inputs
    }
    this.advance(wanted - this.now)
    this.#end = end
  }

  #keep(): void {
    if ((this.#kept.at(-1)?.at ?? -1) >= this.now) return
    this.#kept.push({ at: this.now, inputs: this.#given, saved: this.play.save() })
  }
}

/** Does something in a play; whether it could be done. What the play does not have is not done. */
function done(play: LevelPlay, who: string, act: Act): boolean {
  switch (act.do) {
    case 'press':
      play.press(who, act.way, act.chance)
      return true
    case 'hold':
      play.hold(who)
      return true
    case 'release':
      play.release(who)
      return true
    case 'dismiss':
      play.dismiss(who)
      return true
    case 'choose':
      play.choose(who, act.option)
      return true
    case 'dial':
      return play.dial(who, act.on, act.wheel, act.to)
    case 'face':
      play.face(who, act.target)
      return true
    case 'steer':
      play.steer(who, act.towards)
      return true
    case 'walk-to':
      return play.walkTo(who, act.target)
    case 'walk-along':
      play.walkAlong(who, act.corners)
      return true
    case 'help':
      play.help(who, act.help)
      return true
  }
}
