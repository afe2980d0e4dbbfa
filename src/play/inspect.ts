import { nearness } from '../space/index.ts'
import type { NotAsked } from './log.ts'
import type { Play } from './play.ts'
import { nearby } from './reasons.ts'
import type { View } from './view.ts'

/** Everything that can be told of a moment of a play, for one character. */
export interface Inspection {
  readonly spot: readonly [number, number]
  /** What a press of each kind would go to, and how it would answer as things are. */
  readonly presses: readonly {
    readonly way: string
    readonly interactable: string
    readonly answer: 'accepts' | 'refuses' | 'ignores'
  }[]
  readonly prompts: readonly { readonly text: string; readonly key: string | null }[]
  /** What must be dismissed before anything else. */
  readonly popup: string | null
  readonly showing: View['showing']
  readonly icons: View['icons']
  readonly options: readonly string[]
  /** What else is near by, and why a press would not go to it. */
  readonly others: readonly NotAsked[]
  readonly states: readonly { readonly interactable: string; readonly state: string }[]
  readonly flags: readonly { readonly flag: string; readonly is: boolean }[]
  readonly counters: readonly { readonly counter: string; readonly is: number }[]
  readonly carries: Readonly<Record<string, number>>
  /** How far each interactable with a range is from the hand, and how far its range goes; metres. */
  readonly ranges: readonly { readonly interactable: string; readonly distance: number; readonly radius: number }[]
}

/** Looks at a moment of a play. Changes nothing in it. */
export function inspect(play: Play, character: number): Inspection {
  const { expanded, space } = play.stage
  const view = play.view(character)
  const presses = expanded.pressKinds.flatMap(({ press, option, chance }, pressKind) => {
    const [first] = option === null && chance === null ? play.candidates(character, pressKind) : []
    if (first === undefined) return []
    return [
      {
        way: press,
        interactable: expanded.interactables[first]!.name,
        answer: play.wouldAccept(character, first, pressKind)
          ? ('accepts' as const)
          : play.isIgnoring(first)
            ? ('ignores' as const)
            : ('refuses' as const),
      },
    ]
  })
  const first = presses[0]?.interactable
  const ranges = expanded.interactables.flatMap((placed) => {
    if (!space.layout.figures[placed.index]!.pressable) return []
    const near = nearness(space.layout, placed, expanded.characters[character]!, view.spot)
    if (!near) return []
    return [{ interactable: placed.name, distance: Math.round(near.distance * 1000) / 1000, radius: placed.radius }]
  })
  return {
    spot: [view.spot[0], view.spot[1]],
    presses,
    prompts: view.prompts,
    popup: view.popup,
    showing: view.showing,
    icons: view.icons,
    options: view.options,
    others: nearby(play, character).filter(({ interactable }) => interactable !== first),
    states: expanded.interactables.map(({ name, index }) => ({ interactable: name, state: play.stateOf(index) })),
    flags: expanded.flags.map(({ name }, index) => ({ flag: name, is: play.isSet(index) })),
    counters: expanded.counters.map(({ name }, index) => ({ counter: name, is: play.countOf(index) })),
    carries: view.carries,
    ranges,
  }
}
