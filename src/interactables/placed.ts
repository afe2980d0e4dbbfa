import type { Feedback, HandleDefinition, Level, Moment, Role, Source, ZoneDefinition } from '../model/index.ts'

/** A condition whose names are resolved to indices. */
export type Check =
  /** `path`: where the name of the item is written. */
  | { readonly kind: 'carries'; readonly item: number; readonly count: number; readonly path: string }
  | { readonly kind: 'state'; readonly interactable: number; readonly states: readonly number[] }
  /** Room for so many more of an item. */
  | { readonly kind: 'room'; readonly item: number; readonly count: number }
  /** The character that acts has one of these roles. */
  | { readonly kind: 'role'; readonly roles: readonly Role[] }
  /** An index into `Expanded.memories`: it is remembered of the character that acts. */
  | { readonly kind: 'remembers'; readonly memory: number }
  /** So many are left of one of `Expanded.contents`. */
  | { readonly kind: 'contains'; readonly content: number; readonly count: number }
  /** Nothing is left of these. */
  | { readonly kind: 'empty'; readonly contents: readonly number[] }
  /** Something of these is left that the character that acts has room for. */
  | { readonly kind: 'fits'; readonly contents: readonly number[] }
  | { readonly kind: 'flag'; readonly flag: number; readonly is: boolean }
  | { readonly kind: 'counter'; readonly counter: number; readonly least: number; readonly most: number }
  /** Somebody is in a zone; with `item` not -1, somebody who carries it. */
  | {
      readonly kind: 'inside'
      readonly zone: number
      readonly item: number
      /** The characters that are meant; null: all. */
      readonly who: readonly number[] | null
    }
  /** The first wheel of a dial, and where it and those after it must stand. */
  | { readonly kind: 'dial'; readonly wheel: number; readonly digits: readonly number[] }
  | { readonly kind: 'all' | 'any'; readonly checks: readonly Check[] }
  | { readonly kind: 'not'; readonly check: Check }
  /** Never holds: it names something that is not there. */
  | { readonly kind: 'never'; readonly name: string }

/** What sets a placed transition off. */
export type When =
  | { readonly kind: 'release' | 'motion-end' }
  /**
   * `pressKind` is an index into `Expanded.pressKinds`; `every` in whole milliseconds, 0: it is not pressed again; `offered`: for an
   * option, what must hold for it to be on the prompt.
   */
  | { readonly kind: 'press'; readonly pressKind: number; readonly every: number; readonly offered: Check | null }
  /** `hold` in whole milliseconds. */
  | { readonly kind: 'hold'; readonly hold: number }
  | { readonly kind: 'becomes'; readonly check: Check }
  | { readonly kind: 'enter' | 'leave'; readonly zone: number }
  /** `path`: where the name of the signal is written. */
  | { readonly kind: 'signal'; readonly signal: number; readonly path: string }
  /** `after` in whole milliseconds. */
  | { readonly kind: 'after'; readonly after: number }

/**
 * An effect whose names are resolved. A signal goes to one interactable, to those that bear a tag, or, where both are
 * null, to all.
 */
export type Change =
  | {
      readonly kind: 'give' | 'remove' | 'consume'
      readonly item: number
      readonly count: number
      /** Where levels are joined: it is dropped on the way out, by whoever has not left already. */
      readonly isDropped?: true
    }
  /** The character that acts gets at most so many of what is in an interactable, as far as there is room. */
  | { readonly kind: 'take-out' | 'put-in'; readonly content: number; readonly count: number }
  | { readonly kind: 'remember'; readonly memory: number; readonly to: boolean }
  /** The character that acts is moved to one of `Expanded.places`. */
  | {
      readonly kind: 'move-to'
      readonly place: number
      /** Where one of these is remembered of the character, it is moved to that place instead; at most one is. */
      readonly checkpoints?: readonly { readonly memory: number; readonly place: number }[]
      /** The way out of one level into another that this is, where levels are joined. */
      readonly exit?: Omit<Extract<Change, { kind: 'exit-to' }>, 'kind'>
    }
  /** The character that acts goes to a place in another level, without these items; null: without any. */
  | {
      readonly kind: 'exit-to'
      readonly level: string
      readonly place: string
      readonly drops: readonly number[] | null
      /** Where the names of the level and of the place are written. */
      readonly paths: { readonly level: string; readonly place: string }
    }
  | { readonly kind: 'set'; readonly flag: number; readonly to: boolean }
  /** A counter is set to a number, or goes up or down by one. */
  | { readonly kind: 'count'; readonly counter: number; readonly to: number | null; readonly by: number }
  | {
      readonly kind: 'send'
      readonly signal: number
      readonly interactable: number | null
      readonly tag: number | null
      /** Where the name of the signal is written. */
      readonly path: string
    }

/** A state of a placed interactable. */
export interface PlacedState {
  readonly name: string
  readonly blocksWalk: boolean
  readonly blocksSight: boolean
  /** Nothing here hangs on it: it is for an engine. */
  readonly blocksCamera: boolean
  readonly look: string | null
  readonly lasting: boolean
  /** The pose of a state at rest: 0 shut, 1 open; null where it keeps the pose it was entered with. */
  readonly pose: 0 | 1 | null
  /** `over` in whole milliseconds for the whole way. */
  readonly motion: PlacedMotion | null
  readonly ignoresPress: boolean
  /** Whether the wheels of its dial can be set. */
  readonly dials: boolean
  /** Whether all rows that lead to it are left out in this instance, by its settings: it is not meant to come to it. */
  readonly isSpare: boolean
  /** Where it was written: the type's line, or the instance's for built-in types. */
  readonly path: string
}

/** How a body moves while a state lasts. */
export interface PlacedMotion {
  /** The pose that it moves towards. */
  readonly to: 0 | 1
  /** Whole milliseconds from one pose to the other. */
  readonly over: number
  readonly kind: 'turn' | 'slide' | 'vanish'
  /** Degrees about its hinge, for a turn. */
  readonly turn: number
  /** Metres in its own frame, for a slide. */
  readonly slide: readonly [number, number, number]
  /** Slow at first and at last, instead of always as fast. */
  readonly isSoft: boolean
}

/** A transition of a placed interactable. */
export interface PlacedTransition {
  readonly name: string | null
  /** Indices of the states that it leaves. */
  readonly from: readonly number[]
  /** The index of the state that it leads to; null: it stays. */
  readonly to: number | null
  readonly when: When
  /** Who may set it off. */
  readonly roles: readonly Role[]
  readonly guard: Check
  readonly changes: readonly Change[]
  readonly feedback: readonly Feedback[]
  /** What a refused press on it says; null: what the interactable says in general. */
  readonly refused: readonly Feedback[] | null
  /** Back to the same state: whether timers start again. */
  readonly restarts: boolean
  /** It only refuses: it stands for a state in which every press is refused. */
  readonly isRefusal: boolean
  /** Where it was written that it spends something; null: it does not. */
  readonly spends: string | null
  /** The line that made it: its own, or for built-in types the setting or the instance. */
  readonly path: string
}

/** One instance with everything that its type and its settings give it. */
export interface Placed {
  readonly index: number
  readonly name: string
  readonly type: string
  /** Its path in the level. */
  readonly path: string
  readonly states: readonly PlacedState[]
  readonly initial: number
  readonly transitions: readonly PlacedTransition[]
  /** Indices into `Expanded.zones`. */
  readonly zones: readonly number[]
  /** Its wheels, by their numbers among all wheels of the level; empty where it has no dial. */
  readonly wheels: readonly number[]
  /** What it remembers of each character: indices into `Expanded.memories`, by name. */
  readonly memories: Readonly<Record<string, number>>
  /** What is in it: indices into `Expanded.contents`. */
  readonly contents: readonly number[]
  /** What happens where its body would enclose somebody. */
  readonly inTheWay: 'wait' | 'reopen' | 'push'
  /** Indices into `Expanded.tags`. */
  readonly tags: readonly number[]
  /** The doorway that it fills; null: it stands at `at`, or (where that is null too) nowhere. */
  readonly doorway: string | null
  readonly at: readonly [number, number] | null
  /** Metres above the ground, where `at` gave a height. */
  readonly height: number | null
  /** Degrees. */
  readonly turn: number
  /** Metres along its own x and y; null: it has no body, or the doorway's. */
  readonly size: readonly [number, number] | null
  readonly handle: HandleDefinition | null
  readonly rangeFrom: 'handle' | 'centre' | readonly [number, number, number]
  /** Metres. */
  readonly radius: number
  /** Metres, `radius` or more: whoever has come within `radius` stays in range as far off as this. */
  readonly until: number
  /** How high a hand must be above the floor that this is on, in metres; null: any height will do. */
  readonly heights: { readonly from: number; readonly to: number } | null
  /** Where, besides, a character must stand for a press to go to it, in its own frame; null: anywhere. */
  readonly standsIn: ZoneDefinition | null
  readonly sight: boolean
  /** Degrees to either side within which one must look at the handle; null: any way will do. */
  readonly aim: number | null
  readonly priority: number
  readonly feedback: Readonly<Partial<Record<Moment, readonly Feedback[]>>>
  /** What `{item}` and `{count}` in its messages stand for. */
  readonly asksFor: { readonly item: string; readonly count: number } | null
}

/** A name that leads nowhere, a name used twice, or a value that cannot be meant. */
export type NameProblem = {
  /** Where it stands. */
  readonly path: string
  /** What it belongs to: a name in the level. */
  readonly subject: string
} & (
  | {
      readonly rule: 'unknown-name'
      readonly kind: string
      readonly name: string
      readonly nearest: string | null
      /** The names that there are. */
      readonly known: readonly string[]
      /**
       * Where it is rather the nearest name that is misspelt, where that is defined: the paths of all that name the other, and how many
       * name it. The path of the problem is that of the definition. Null: it is this name.
       */
      readonly misspelt: { readonly paths: readonly string[]; readonly uses: number } | null
    }
  /** `other` is the path of what has the name too. */
  | { readonly rule: 'duplicate-name'; readonly other: string }
  | { readonly rule: 'bad-value'; readonly wrong: WrongValue }
  /** Too near a wall, or outside of all rooms; `nearest`: the nearest spot where it could stand, in metres. */
  | {
      readonly rule: 'blocked-start'
      readonly where: 'near-wall' | 'outside'
      readonly nearest: readonly [number, number] | null
    }
)

/** How a value cannot be meant. */
export type WrongValue =
  | { readonly is: 'more-than-carried'; readonly item: string; readonly count: number; readonly most: number }
  | { readonly is: 'doorway-apart'; readonly rooms: readonly string[] }
  | { readonly is: 'wheels'; readonly asked: number; readonly there: number }
  | { readonly is: 'dial-too-far'; readonly number: number; readonly last: number }
  | { readonly is: 'extends-circle'; readonly type: string }
  | { readonly is: 'outline-crossed' }
  | { readonly is: 'ends-too-soon'; readonly until: number; readonly radius: number }
  | { readonly is: 'between-storeys'; readonly rooms: readonly string[]; readonly storeys: readonly (string | null)[] }
  | { readonly is: 'drawn-over'; readonly room: string; readonly storeys: readonly (string | null)[] }
  | { readonly is: 'place-closed' }

/** Everything in a zone list: whose it is. */
export interface ZoneOf {
  /** The interactable that it belongs to; -1: it is a room. */
  readonly interactable: number
  readonly name: string
  /** `skin`: wherever a character touches the body. */
  readonly shape: ZoneDefinition | 'skin'
  /** Whether a condition asks who is in it. */
  readonly asked: boolean
}

/** A way to press: a kind of press, the usual one as chance draws it, or an option that is chosen. */
export interface PressKind {
  /** The kind of press; `option` for all options, which stand on one prompt. */
  readonly press: string
  /** For an option its text. */
  readonly option: string | null
  /** For a usual press that chance decides, what it draws. */
  readonly chance: string | null
}

/** A wheel of a dial. */
export interface Wheel {
  readonly interactable: number
  readonly positions: number
  readonly initial: number
}

/** A level with every instance spelt out, every name looked up, and what was wrong with them. */
export interface Expanded {
  readonly level: Level
  readonly source: Source
  /** The levels that it is joined of; left out where it is one level. */
  readonly joined?: Joined
  readonly interactables: readonly Placed[]
  readonly zones: readonly ZoneOf[]
  readonly items: readonly PlacedItem[]
  readonly flags: readonly { readonly name: string; readonly initial: boolean }[]
  readonly counters: readonly { readonly name: string; readonly initial: number; readonly most: number }[]
  readonly signals: readonly string[]
  readonly tags: readonly string[]
  /** All ways to press; the first is the usual one. */
  readonly pressKinds: readonly PressKind[]
  readonly wheels: readonly Wheel[]
  readonly memories: readonly {
    readonly interactable: number
    readonly name: string
    /** The place that it stands for, where it is a checkpoint. */
    readonly checkpoint?: string
  }[]
  /** What can be in interactables: at most `count` of an item, and `initial` at first. */
  readonly contents: readonly {
    readonly interactable: number
    readonly item: number
    readonly count: number
    readonly initial: number
  }[]
  readonly places: readonly {
    readonly name: string
    readonly at: readonly [number, number]
    /** Metres above the ground. */
    readonly height: number
    /** Degrees; null: one looks the way one did before. */
    readonly facing: number | null
  }[]
  readonly characters: readonly PlacedCharacter[]
  readonly goals: readonly {
    readonly name: string
    readonly title: string | null
    readonly check: Check
    readonly path: string
    /** Where levels are joined: it is met as well while the play goes on in another level than this one, by index. */
    readonly orElsewhere?: number
    /** Where levels are joined: whether it can still be met is asked only while the play goes on in this level, by index. */
    readonly asksIn?: number
  }[]
  readonly requirements: readonly PlacedRequirement[]
  readonly problems: readonly NameProblem[]
}

/** Several levels as one. */
export interface Joined {
  /** What it is called. */
  readonly title: string
  /** Where a play may begin; the first is the usual start. */
  readonly starts: readonly Beginning[]
  readonly parts: readonly JoinedPart[]
}

/** A start of levels that are joined. */
export interface Beginning {
  readonly name: string
  readonly level: string
  /** A place of that level; where the player starts there, if it is left out. */
  readonly place?: string | undefined
}

/** What of a level is as it was left when one comes back to it. */
export interface Remembered {
  /** Everything, where it is left out. */
  readonly remembers?: 'everything' | 'nothing' | undefined
  /** The names of the interactables that are not taken so. */
  readonly except?: readonly string[] | undefined
}

/** What of a level begins anew when one comes back to it, by index. */
export interface Forgotten {
  readonly interactables: readonly number[]
  readonly flags: readonly number[]
  readonly counters: readonly number[]
  /** What these carry. */
  readonly characters: readonly number[]
}

/** A level among others that it is joined with. */
export interface JoinedPart {
  /** What the project calls it. */
  readonly name: string
  readonly title: string
  /** The level by itself. */
  readonly expanded: Expanded
  readonly remembered: Remembered
  /** Where its own begin among all. */
  readonly first: Readonly<
    Record<
      | 'interactables'
      | 'zones'
      | 'flags'
      | 'counters'
      | 'signals'
      | 'tags'
      | 'wheels'
      | 'memories'
      | 'contents'
      | 'places'
      | 'goals'
      | 'requirements'
      /** Characters who are no players. */
      | 'others',
      number
    >
  >
  /** Metres that its ground is moved by, along x. */
  readonly by: number
  /** What lies west of this, and east of that of the part before, lies on its ground. */
  readonly until: number
}

/** What is required of every play. */
export interface PlacedRequirement {
  readonly name: string
  readonly title: string | null
  readonly kind: 'never' | 'before' | 'always' | 'can-still' | 'within'
  /** For what can still be brought about: whatever characters of this role do; null: those may be needed for it. */
  readonly against: Role | null
  /**
   * What must never be so, or always, or stay within reach, or, for `within`, what sets the time going; then for `before` until when
   * it must not be so, for `within` what must follow. Each with its place in the requirement.
   */
  readonly conditions: readonly { readonly part: string; readonly check: Check }[]
  /** For `within`: in so many milliseconds. */
  readonly ms: number | null
  readonly path: string
}

/** An item. */
export interface PlacedItem {
  readonly name: string
  readonly title: string
  /** How many one character can carry; where it is shared, how many all can carry. */
  readonly most: number
  /** All characters hold it together. */
  readonly shared: boolean
}

/** A character, with everything in metres, metres a second, and indices. */
export interface PlacedCharacter {
  readonly name: string
  readonly role: Role
  readonly start: readonly [number, number]
  /** Degrees. */
  readonly facing: number
  readonly radius: number
  readonly speed: number
  readonly hand: number
  readonly reach: number
  /** How far ahead of the hand the reach is measured from: a character turns to what it presses. */
  readonly reachOffset: number
  /** How far from the line along which it looks the handle of what it presses may be, in metres; null: it need not look at it. */
  readonly probe: number | null
  /** How many of each item, by index. */
  readonly carries: readonly number[]
  /** How many things in all; `Infinity`: any number. Shared items do not count. */
  readonly carriesMost: number
}
