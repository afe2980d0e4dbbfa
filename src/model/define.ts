import type { HeldLevel, HeldType, Known, LevelInput, TypeInput } from './held.ts'
import type { Level } from './level.ts'

/** A type without anything misspelt: what is, the compiler tells, with what there is instead. */
export type WellSpeltType<D> = D & HeldType<LevelInput, D> & Known<D, TypeInput>

/** A level without anything misspelt. */
export type WellSpeltLevel<L> = L & HeldLevel<L> & Known<L, LevelInput>

/**
 * Defines a type of interactable in TypeScript. What is misspelt does not compile: a key, a state that a transition leaves or leads
 * to, a zone, a kind of trigger, a role, a moment. Returns the same plain value that a file would give.
 */
export function defineInteractable<const D extends TypeInput>(type: WellSpeltType<D>): D {
  return { ...type }
}

/**
 * Defines a level in TypeScript: the plain value that a file would give, version included. Names are held to what the level and its
 * types have: types, settings and what they take, states, items, flags, counters, places, the interactables of goals and conditions.
 * What types cannot tell, such as a radius below zero, `readLevelValue` of `zintel/yaml` does.
 */
export function defineLevel<const L extends LevelInput>(level: WellSpeltLevel<L>): Level {
  // What the compiler has held to the names is a level; that nothing in it can be changed does not matter here.
  return { zintel: 1, ...level } as unknown as Level
}
