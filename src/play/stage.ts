import type { Expanded } from '../interactables/index.ts'
import { compile, initialRegisters, type Tables } from '../machine/index.ts'
import { finish } from '../model/index.ts'
import { makeSpace, type Point, type Space, surroundings } from '../space/index.ts'

/** A level that is ready to be played and explored: its tables and its ground. Nothing in it changes in a play. */
export interface Stage {
  readonly expanded: Expanded
  readonly tables: Tables
  readonly space: Space
}

/** Compiles a level and lays it out. */
export function makeStage(expanded: Expanded): Stage {
  return finish(stageInSlices(expanded))
}

/**
 * The same with pauses, every few milliseconds. What is in `everywhere` answers a press from every spot, behind all
 * others.
 */
export function* stageInSlices(
  expanded: Expanded,
  everywhere: ReadonlySet<number> = new Set(),
): Generator<undefined, Stage> {
  const tables = compile(expanded)
  yield
  return { expanded, tables, space: yield* makeSpace(expanded, everywhere) }
}

/** The registers of a level in which nothing has happened yet. */
export function startRegisters({ tables, space, expanded }: Stage): Int32Array {
  return initialRegisters(tables, (character) => {
    return surroundings(space, character, expanded.characters[character]!.start).zones
  })
}

/** What can be asked of a play that is going on. Characters and interactables go by index. */
export interface Ongoing {
  readonly stage: Stage
  /** Where a character is. */
  spotOf(character: number): Point
  /** How many of an item a character carries. */
  carried(character: number, item: number): number
  isWalking(character: number): boolean
  /** The interactable that a character keeps pressed; -1: none. */
  keptBy(character: number): number
  /** The interactables in range, in reach and in sight of a character, first choice first. */
  within(character: number): number[]
  /** The options that an interactable offers in its present state. */
  optionsOf(interactable: number): string[]
  /** Whether an interactable ignores a press in its present state, on purpose. */
  isIgnoring(interactable: number): boolean
  /** How far a counter has counted. */
  countOf(counter: number): number
  /** The state that an interactable is in, by name. */
  stateOf(interactable: number): string
  /** The interactables that could answer a press of a character, as it stands and looks, first choice first. */
  candidates(character: number, ask?: number): number[]
  /** Whether an interactable would answer, or ignore, a press of some kind in its present state. */
  isAnswering(interactable: number): boolean
  /** Whether the body of an interactable blocks sight in its present state. */
  isHiding(interactable: number): boolean
  /** The interactables whose bodies block walking now. */
  blocking(): number[]
}
