import type { BuiltInShapes } from './built-ins.ts'
import type { Level } from './level.ts'
import type { Role } from './vocabulary.ts'

/** The same, and nothing in it can be changed. */
export type DeepReadonly<T> = T extends (infer E)[]
  ? readonly DeepReadonly<E>[]
  : T extends object
    ? { readonly [K in keyof T]: DeepReadonly<T[K]> }
    : T

/** A level as `defineLevel` takes it: as a file would have it, but for the version. */
export type LevelInput = DeepReadonly<Omit<Level, 'zintel'>>

/** A type as `defineInteractable` takes it. */
export type TypeInput = NonNullable<LevelInput['types']>[string]

type Has<L, K extends string> = L extends Readonly<Partial<Record<K, infer M>>> ? M : unknown

/** The names that a part of a level has; any, where the level does not have that part as a literal. */
type NamesIn<L, K extends string> = string extends keyof L
  ? string
  : K extends keyof L
    ? Extract<keyof Has<L, K>, string>
    : never

/** The names of the types of a level, and of the built-in ones. */
type TypeName<L> = NamesIn<L, 'types'> | Extract<keyof BuiltInShapes, string>

/** A type of a level, or a built-in one, by its name. */
type ShapeOf<L, T> = T extends keyof Has<L, 'types'>
  ? Has<L, 'types'>[T]
  : T extends keyof BuiltInShapes
    ? BuiltInShapes[T]
    : unknown

/** The names in a part of a type, and in that part of the type that it extends. */
type NamesOfType<L, D, K extends string> =
  | (D extends Readonly<Record<K, infer M>> ? Extract<keyof M, string> : never)
  | (D extends { readonly extends: infer B } ? NamesOfType<L, ShapeOf<L, B>, K> : never)

type TypeOfInstance<L, I> = I extends keyof Has<L, 'interactables'>
  ? Has<L, 'interactables'>[I] extends { readonly type: infer T }
    ? T
    : unknown
  : unknown

/** The states of an interactable, by its name in the level. */
type StateOfInstance<L, I> = NamesOfType<L, ShapeOf<L, TypeOfInstance<L, I>>, 'states'>

/** Where there are no names that could be held to: any will do. */
type OrAny<N> = [N] extends [never] ? string : N

/** What the compiler says of a name that is not there. */
export interface IsNotOneOf<N> {
  readonly 'is not one of': N
}

/** What the compiler says of a key that nothing knows. */
export interface IsNoKeyHere<K> {
  readonly 'is no key here': K
}

/** A name, where it is one of those that there are. */
type OneOf<V, N> = [V] extends [N | undefined] ? V : [N] extends [infer M] ? IsNotOneOf<M> : never

/** Names in a list. */
type EachOneOf<Vs, N> = { readonly [I in keyof Vs]: OneOf<Vs[I], N> }

/** A name, or, in a type, the setting that it is taken from. */
type OrSetting<V, N> = V extends object ? V : OneOf<V, N>

/** A condition whose names are those of the level. `Self` are the names of the zones, and so on, of its own type. */
export type HeldCondition<L, C> = {
  readonly [K in keyof C]: K extends 'carries' | 'room-for' | 'contains' | 'carrying'
    ? OrSetting<C[K], NamesIn<L, 'items'>>
    : K extends 'interactable' | 'of'
      ? OrSetting<C[K], NamesIn<L, 'interactables'>>
      : K extends 'flag'
        ? OrSetting<C[K], NamesIn<L, 'flags'>>
        : K extends 'counter'
          ? OrSetting<C[K], NamesIn<L, 'counters'>>
          : K extends 'is'
            ? HeldIs<L, C, C[K]>
            : K extends 'all' | 'any'
              ? HeldConditions<L, C[K]>
              : K extends 'not'
                ? HeldCondition<L, C[K]>
                : C[K]
}

/** Whether a list is written out: its entries are looked at one by one then. */
type IsLiteralList<V> = V extends readonly unknown[] ? (number extends V['length'] ? false : true) : false

type HeldConditions<L, Cs> =
  IsLiteralList<Cs> extends true
    ? { readonly [I in keyof Cs]: HeldCondition<L, Cs[I]> }
    : Cs extends readonly unknown[]
      ? readonly HeldCondition<L, Cs[number]>[]
      : Cs

/** The state that is asked for, where it is known of which interactable. */
type HeldIs<L, C, V> = C extends { readonly interactable: infer I extends string }
  ? V extends readonly unknown[]
    ? EachOneOf<V, OrAny<StateOfInstance<L, I>>>
    : OneOf<V, OrAny<StateOfInstance<L, I>>>
  : V

/** What a setting takes, by its kind. */
type SettingValue<L, S, V> = S extends { readonly kind: keyof KindNames }
  ? OneOf<V, NamesIn<L, KindNames[S['kind']]>>
  : S extends { readonly kind: keyof KindValues }
    ? OneOf<V, KindValues[S['kind']]>
    : S extends { readonly kind: 'choice'; readonly options: infer O extends readonly unknown[] }
      ? OneOf<V, O[number]>
      : S extends { readonly kind: 'items' }
        ? { readonly [I in keyof V]: HeldCounted<L, V[I]> }
        : S extends { readonly kind: 'item-names' }
          ? EachOneOf<V, NamesIn<L, 'items'>>
          : S extends { readonly kind: 'triggers'; readonly options: infer O extends readonly unknown[] }
            ? EachOneOf<V, Exclude<O[number], 'signal'> | { readonly signal: string }>
            : S extends { readonly kind: 'condition' }
              ? HeldCondition<L, V>
              : S extends { readonly kind: 'group'; readonly fields: infer F }
                ? HeldSettings<L, F, V>
                : V

/** For kinds of settings that take a name: in which part of the level it stands. */
interface KindNames {
  readonly item: 'items'
  readonly interactable: 'interactables'
  readonly flag: 'flags'
  readonly counter: 'counters'
  readonly place: 'places'
}

/** For kinds of settings that take a plain value: which. */
interface KindValues {
  readonly 'yes-no': boolean
  readonly seconds: number
  readonly metres: number
  readonly degrees: number
  readonly speed: number
  readonly count: number
  readonly text: string
  readonly signal: string
  readonly tag: string
  readonly level: string
}

/** An item, and how many. */
type HeldCounted<L, V> = { readonly [K in keyof V]: K extends 'item' ? OneOf<V[K], NamesIn<L, 'items'>> : V[K] }

/** Settings of which each is one that the type has; keys that begin with `x-` are the writer's own. */
type HeldSettings<L, F, V> = {
  readonly [K in keyof V]: K extends keyof F
    ? SettingValue<L, F[K], V[K]>
    : K extends `x-${string}`
      ? V[K]
      : IsNotOneOf<keyof F>
}

/** All settings of a type, and of the type that it extends. */
type SettingsOf<L, D> = (D extends { readonly settings: infer S } ? S : unknown) &
  (D extends { readonly extends: infer B } ? SettingsOf<L, ShapeOf<L, B>> : unknown)

type HeldInstance<L, I> = {
  readonly [K in keyof I]: K extends 'type'
    ? OneOf<I[K], TypeName<L>>
    : K extends 'initial'
      ? I extends { readonly type: infer T }
        ? OneOf<I[K], OrAny<NamesOfType<L, ShapeOf<L, T>, 'states'>>>
        : I[K]
      : K extends 'set'
        ? I extends { readonly type: infer T extends TypeName<L> }
          ? HeldSettings<L, SettingsOf<L, ShapeOf<L, T>>, I[K]>
          : I[K]
        : K extends 'in'
          ? OneOf<I[K], NamesIn<L, 'doorways'>>
          : I[K]
}

type HeldEffect<L, E> = {
  readonly [K in keyof E]: K extends 'give' | 'remove' | 'consume'
    ? E[K] extends string
      ? OneOf<E[K], NamesIn<L, 'items'>>
      : E[K]
    : K extends 'move-to' | 'checkpoint' | 'back-to-checkpoint'
      ? OrSetting<E[K], NamesIn<L, 'places'>>
      : K extends 'set'
        ? OrSetting<E[K], NamesIn<L, 'flags'> | NamesIn<L, 'counters'>>
        : K extends 'add'
          ? OrSetting<E[K], NamesIn<L, 'counters'>>
          : E[K]
}

type HeldEffects<L, Es> =
  IsLiteralList<Es> extends true
    ? { readonly [I in keyof Es]: HeldEffect<L, Es[I]> }
    : Es extends readonly unknown[]
      ? readonly HeldEffect<L, Es[number]>[]
      : Es

type HeldTrigger<L, D, T> = T extends { readonly enter: string }
  ? { readonly enter: OneOf<T['enter'], OrAny<NamesOfType<L, D, 'zones'>>> }
  : T extends { readonly leave: string }
    ? { readonly leave: OneOf<T['leave'], OrAny<NamesOfType<L, D, 'zones'>>> }
    : T

type HeldTransition<L, D, T> = {
  readonly [K in keyof T]: K extends 'from'
    ? T[K] extends readonly unknown[]
      ? EachOneOf<T[K], OrAny<NamesOfType<L, D, 'states'>>>
      : OneOf<T[K], OrAny<NamesOfType<L, D, 'states'>>>
    : K extends 'to'
      ? OneOf<T[K], OrAny<NamesOfType<L, D, 'states'>>>
      : K extends 'trigger'
        ? HeldTrigger<L, D, T[K]>
        : K extends 'guard'
          ? HeldCondition<L, T[K]>
          : K extends 'effects'
            ? HeldEffects<L, T[K]>
            : T[K]
}

type HeldTransitions<L, D, Ts> =
  IsLiteralList<Ts> extends true
    ? { readonly [I in keyof Ts]: HeldTransition<L, D, Ts[I]> }
    : Ts extends readonly unknown[]
      ? readonly HeldTransition<L, D, Ts[number]>[]
      : Ts

/** A type whose transitions name its own states and zones, and what the level has. */
export type HeldType<L, D> = {
  readonly [K in keyof D]: K extends 'transitions' ? HeldTransitions<L, D, D[K]> : D[K]
}

type HeldCharacter<L, C> = {
  readonly [K in keyof C]: K extends 'carries'
    ? { readonly [N in keyof C[K]]: N extends NamesIn<L, 'items'> ? C[K][N] : IsNotOneOf<NamesIn<L, 'items'>> }
    : K extends 'role'
      ? Role
      : C[K]
}

type Each<M, H extends 'instance' | 'goal' | 'type' | 'character', L> = {
  readonly [N in keyof M]: H extends 'instance'
    ? HeldInstance<L, M[N]>
    : H extends 'goal'
      ? HeldCondition<L, M[N]>
      : H extends 'type'
        ? HeldType<L, M[N]>
        : HeldCharacter<L, M[N]>
}

/** A level all of whose names are there. */
export type HeldLevel<L> = {
  readonly [K in keyof L]: K extends 'interactables'
    ? Each<L[K], 'instance', L>
    : K extends 'goals'
      ? Each<L[K], 'goal', L>
      : K extends 'requirements'
        ? { readonly [N in keyof L[K]]: Each<L[K][N], 'goal', L> }
        : K extends 'types'
          ? Each<L[K], 'type', L>
          : K extends 'characters'
            ? Each<L[K], 'character', L>
            : L[K]
}

type KeysOf<S> = S extends object ? keyof S : never
type At<S, K> = S extends object ? (K extends keyof S ? S[K] : never) : never
type ElementOf<S> = S extends readonly (infer E)[] ? E : never

/** A value without keys that nothing knows; those that begin with `x-` are the writer's own. */
export type Known<V, S> = unknown extends S
  ? V
  : V extends readonly unknown[]
    ? IsLiteralList<V> extends true
      ? { readonly [I in keyof V]: Known<V[I], ElementOf<S>> }
      : readonly Known<V[number], ElementOf<S>>[]
    : V extends object
      ? {
          readonly [K in keyof V]: K extends KeysOf<S>
            ? Known<V[K], At<S, K>>
            : K extends `x-${string}`
              ? V[K]
              : IsNoKeyHere<K>
        }
      : V
