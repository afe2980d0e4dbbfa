import { type Expanded, expandLevel, loadLevel } from '../interactables/index.ts'
import { type Diagnostic, diagnosticText, type Level, type Reading, type Role, type Source } from '../model/index.ts'
import { makeStage, type Stage, stageInSlices } from '../play/index.ts'
import { type LaidOut, laidOut } from '../space/index.ts'

/** A level that cannot be used: `diagnostics` has every reason with its place. */
export class LevelError extends Error {
  readonly diagnostics: readonly Diagnostic[]

  constructor(diagnostics: readonly Diagnostic[]) {
    super(diagnostics.map(diagnosticText).join('\n'))
    this.name = 'LevelError'
    this.diagnostics = diagnostics
  }
}

/** What a level has, by name. */
export interface LevelContents {
  /** In file order. */
  readonly interactables: readonly {
    readonly name: string
    readonly type: string
    /** The names of its states. */
    readonly states: readonly string[]
  }[]
  /** In file order; how wide they are and how far they reach is in metres. */
  readonly characters: readonly {
    readonly name: string
    readonly role: Role
    readonly radius: number
    readonly reach: number
  }[]
  readonly items: readonly { readonly name: string; readonly title: string | null }[]
  readonly goals: readonly { readonly name: string; readonly title: string | null }[]
  readonly flags: readonly string[]
  readonly counters: readonly string[]
}

/**
 * A level that is spelt out, and laid out when it is first needed: made once with `prepareLevel`, it serves any number of plays,
 * drawings and walkthroughs.
 */
export class PreparedLevel {
  readonly title: string
  /** Names that lead nowhere. It can be drawn and checked even so, but not played. */
  readonly diagnostics: readonly Diagnostic[]
  readonly contents: LevelContents

  /**
   * Made by `prepareLevel`.
   * @internal
   */
  constructor(expanded: Expanded) {
    this.title = expanded.level.title
    this.diagnostics = lostNames(expanded)
    this.contents = {
      interactables: expanded.interactables.map(({ name, type, states }) => ({
        name,
        type,
        states: states.map((state) => state.name),
      })),
      characters: expanded.characters.map(({ name, role, radius, reach }) => ({ name, role, radius, reach })),
      items: expanded.items.map(({ name, title }) => ({ name, title: title ?? null })),
      goals: expanded.goals.map(({ name, title }) => ({ name, title })),
      flags: expanded.flags.map(({ name }) => name),
      counters: expanded.counters.map(({ name }) => name),
    }
    inside.set(this, { expanded, stage: null, drawn: null })
  }
}

/** A level as it may be given: made with `defineLevel`, read with `readLevel` of `zintel/yaml`, or prepared. */
export type AnyLevel = Level | Reading<Level> | PreparedLevel

/** What prepared levels keep to themselves. */
const inside = new WeakMap<PreparedLevel, { readonly expanded: Expanded; stage: Stage | null; drawn: LaidOut | null }>()

/** Prepares a level. Throws a `LevelError` with every reason where it cannot be used. */
export function prepareLevel(level: AnyLevel): PreparedLevel {
  if (level instanceof PreparedLevel) return level
  const { value, source } = readingOf(level)
  return new PreparedLevel(expandLevel(value, source))
}

/** A level with its source, however it was given. Throws a `LevelError` where it cannot be used. */
export function readingOf(level: AnyLevel): { readonly value: Level; readonly source: Source } {
  if (level instanceof PreparedLevel) {
    const { expanded } = inside.get(level)!
    return { value: expanded.level, source: expanded.source }
  }
  const { value, source, diagnostics } = 'diagnostics' in level ? level : loadLevel(level)
  if (!value) throw new LevelError(diagnostics)
  return { value, source }
}

/** A level, spelt out. */
export function expandedOf(level: AnyLevel): Expanded {
  return inside.get(prepareLevel(level))!.expanded
}

/** A level, laid out. */
export function stageOf(level: AnyLevel): Stage {
  const kept = inside.get(prepareLevel(level))!
  return (kept.stage ??= makeStage(kept.expanded))
}

/**
 * Lays a prepared level out, so that a play of it begins at once: of a large level that takes seconds. A generator that yields every few
 * milliseconds; see `runInSlices`.
 */
export function* layOutLevel(level: PreparedLevel): Generator<undefined, PreparedLevel> {
  const kept = inside.get(level)!
  kept.stage ??= yield* stageInSlices(kept.expanded)
  return level
}

/** A level, as far as it has to be laid out to be drawn. */
export function drawnOf(level: AnyLevel): LaidOut {
  const kept = inside.get(prepareLevel(level))!
  return kept.stage ?? (kept.drawn ??= laidOut(kept.expanded))
}

function lostNames({ problems, source }: Expanded): Diagnostic[] {
  return problems.flatMap((problem): Diagnostic[] => {
    if (problem.rule !== 'unknown-name') return []
    const message = `There is no ${problem.kind} "${problem.name}".`
    const place = source.place(problem.path)
    return [{ code: 'wrong-shape', place, message, found: null, expected: null, nearest: problem.nearest }]
  })
}
