import type { Level } from './level.ts'
import type { StateDefinition, TransitionDefinition, TypeDefinition } from './types.ts'

/** A transition whose states are held to the names of `S`. */
export type TransitionBetween<S extends string> = Omit<TransitionDefinition, 'from' | 'to'> & {
  readonly from: S | S[]
  readonly to?: S
}

/** A type whose transitions can only name its own states. */
export type InteractableType<S extends string> = Omit<TypeDefinition, 'states' | 'transitions'> & {
  readonly states: Readonly<Record<S, StateDefinition>>
  readonly transitions: TransitionBetween<NoInfer<S>>[]
}

/**
 * Defines a type of interactable in TypeScript. A transition from or to a state that is not in `states` does not
 * compile. Returns the same plain value that a file would give.
 */
export function defineInteractable<const S extends string>(type: InteractableType<S>): TypeDefinition {
  return { ...type }
}

/** The level as a file would have it, version included: every instance's `starts` is a state of its type where that is known. */
export type LevelInput<T extends Readonly<Record<string, TypeDefinition>>> = Omit<Level, 'zintel' | 'types'> & {
  readonly types?: T
}

/** Defines a level in TypeScript: the plain value that a file would give. It is checked where it is loaded. */
export function defineLevel<const T extends Readonly<Record<string, TypeDefinition>>>(level: LevelInput<T>): Level {
  return { zintel: 1, ...level }
}
