import type { StateDefinition, TransitionDefinition, TypeDefinition } from '../model/index.ts'

/** A transition whose states are held to the names of `S`. */
export type TransitionBetween<S extends string> = Omit<TransitionDefinition, 'from' | 'to'> & {
  readonly from: S | S[]
  readonly to?: S
}

/** A built-in type whose transitions can only name its own states. */
export function builtInType<const S extends string>(
  type: Omit<TypeDefinition, 'states' | 'transitions'> & {
    readonly states: Readonly<Record<S, StateDefinition>>
    readonly transitions: TransitionBetween<NoInfer<S>>[]
  },
): TypeDefinition {
  return { ...type }
}
