import { forgottenOf } from '../interactables/index.ts'
import { forget } from '../machine/index.ts'
import type { Departure } from './logbook.ts'
import type { PlaySave } from './play-state.ts'
import { type Arrival, Play } from './play.ts'
import type { Project, Start } from './project-file.ts'
import { startsOf } from './project.ts'
import { type Stage, standingAt } from './stage.ts'

/** A moment of a play of a project as plain values, good for the same project alone. */
export interface JourneySave {
  readonly level: string
  readonly play: PlaySave
  readonly left: readonly {
    readonly level: string
    readonly regs: readonly number[]
    readonly met: readonly number[]
  }[]
  readonly bags: readonly { readonly person: string; readonly items: readonly (readonly [string, number])[] }[]
}

/**
 * A play of a project: in one level at a time. A character that leaves a level is followed; there, time stands still until
 * somebody returns, and what the project remembers of it is as it was left.
 */
export class Journey {
  /** The level that one is in, by name. */
  level: string
  play: Play
  readonly #project: Project
  readonly #stages: Readonly<Record<string, Stage>>
  /** How levels were left, by name. */
  readonly #left = new Map<string, Left>()
  /** What people carry that the level they are in does not know: how many of each item, by person and item. */
  readonly #bags = new Map<string, Map<string, number>>()

  /** `stages` are the levels of the project, by name; `start` one of its starts, the usual one where it is left out. */
  constructor(project: Project, stages: Readonly<Record<string, Stage>>, start: string | null = null) {
    const starts = startsOf(project)
    const wanted = start ?? Object.keys(starts)[0] ?? ''
    const from = starts[wanted]
    if (!from) throw new RangeError(`the project has no start ${wanted}`)
    this.#project = project
    this.#stages = stages
    this.level = from.level
    this.play = new Play(this.#begun(from), { stopsOnLeaving: true })
  }

  /** Everything that is so at this moment, in all levels. */
  save(): JourneySave {
    return {
      level: this.level,
      play: this.play.save(),
      left: [...this.#left].map(([level, { regs, met }]) => ({ level, regs: [...regs], met })),
      bags: [...this.#bags].map(([person, items]) => ({ person, items: [...items] })),
    }
  }

  /** Puts everything as it was when it was saved, in a play of the same project. */
  restore({ level, play, left, bags }: JourneySave): void {
    this.level = level
    this.play = new Play(this.#stageOf(level), { stopsOnLeaving: true })
    this.play.restore(play)
    this.#left.clear()
    for (const one of left) this.#left.set(one.level, { regs: Int32Array.from(one.regs), met: one.met })
    this.#bags.clear()
    for (const { person, items } of bags) this.#bags.set(person, new Map(items))
  }

  /** The level in which one begins: where it starts itself, or with its player standing at a place. */
  #begun({ level, place }: Start): Stage {
    const stage = this.#stageOf(level)
    return place === undefined ? stage : standingAt(stage, stage.tables.firstPlayer, place)
  }

  /** Goes on in another level, where somebody has set out for one; false where nobody has. */
  follow(): boolean {
    const { departure } = this.play
    if (!departure) return false
    const before = this.play
    before.sendHome()
    this.#left.set(this.level, { regs: before.registers(), met: before.goalsMetByIndex() })
    const stage = this.#stageOf(departure.level)
    const person = before.stage.expanded.characters[departure.actor]!.name
    const same = stage.expanded.characters.findIndex(({ name }) => name === person)
    const character = same < 0 ? stage.tables.firstPlayer : same
    this.play = new Play(stage, {
      stopsOnLeaving: true,
      arrival: {
        character,
        level: departure.level,
        place: stage.expanded.places.findIndex(({ name }) => name === departure.place),
        carries: this.#carriedOver(person, stage, departure),
        from: before.now,
        log: before.log,
        met: this.#left.get(departure.level)?.met ?? [],
        remembered: this.#remembered(departure.level, stage),
      },
    })
    this.level = departure.level
    return true
  }

  /** Lets time pass: a whole number of milliseconds, in whatever levels one comes to. */
  advance(ms: number): void {
    const until = this.play.now + ms
    do this.play.advance(until - this.play.now)
    while (this.follow() && this.play.ended === null)
  }

  /**
   * How many of each item of a level somebody carries who comes to it; items go by their names. What the level does not
   * know is kept for levels that do.
   */
  #carriedOver(person: string, stage: Stage, { actor, drops }: Departure): number[] {
    const { play } = this
    const bag = this.#bags.get(person) ?? new Map<string, number>()
    this.#bags.set(person, bag)
    for (const [item, { name }] of play.stage.expanded.items.entries()) {
      const isDropped = drops === null || drops.includes(item)
      bag.set(name, isDropped ? 0 : play.carried(actor, item))
    }
    return stage.expanded.items.map(({ name, most }) => Math.min(bag.get(name) ?? 0, most))
  }

  #stageOf(level: string): Stage {
    const stage = this.#stages[level]
    if (!stage) throw new Error(`the project has no level ${level}`)
    return stage
  }

  /**
   * How a level to which somebody returns is found: as it was left, which is when all others went back to where they start; null on the first
   * visit.
   */
  #remembered(level: string, stage: Stage): Arrival['remembered'] {
    const left = this.#left.get(level)
    if (!left) return null
    const { tables, expanded } = stage
    const forgotten = forgottenOf(expanded, this.#project.levels[level]!)
    const regs = left.regs.slice()
    forget(tables, forgotten, regs)
    return { regs, begins: forgotten.interactables }
  }
}

/** How a level was left: its registers, and the goals that had been met. */
interface Left {
  readonly regs: Int32Array
  readonly met: readonly number[]
}
