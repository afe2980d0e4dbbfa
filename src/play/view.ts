import type { Point } from '../space/index.ts'
import { type Channel, channelOf, type Feedback } from '../model/index.ts'
import { filledText } from './telling.ts'
import type { Ongoing } from './ongoing.ts'

/** What a character perceives and could do, at one moment. */
export interface View {
  readonly spot: Point
  readonly walking: boolean
  /** The interactables that could answer a press from here and now, first choice first. */
  readonly candidates: readonly string[]
  /** The prompts of the first interactable that a press, or a choice, would go to, or whose wheels can be set; with the key to press, if said. */
  readonly prompts: readonly { readonly text: string; readonly key: string | null }[]
  /** What must be dismissed before anything else; null: nothing. Meanwhile the pointer is free. */
  readonly popup: string | null
  readonly pointerFree: boolean
  /** What goes on being perceived: highlights, lights, motions on the spot, bursts, messages, rumble. */
  readonly showing: readonly { readonly channel: Channel; readonly text: string; readonly interactable: string }[]
  /** The pictures on the screen, with the number that one shows. */
  readonly icons: readonly { readonly icon: string; readonly count: number | null }[]
  /** The options that could be chosen from here and now. */
  readonly options: readonly string[]
  /** Other ways to press than the usual one, such as `kick`, and the interactable that each would go to. */
  readonly ways: readonly { readonly way: string; readonly interactable: string }[]
  /** The dials that could be set from here and now: where each wheel stands, and how many positions it has. */
  readonly dials: readonly {
    readonly interactable: string
    readonly wheels: readonly { readonly at: number; readonly positions: number }[]
  }[]
  /** What the character keeps pressed; null: nothing. */
  readonly keepsPressed: string | null
  /** How many of each item, by name; items that are not carried are left out. */
  readonly carries: Readonly<Record<string, number>>
}

/** What a character perceives and could do. */
export function viewOf(play: Ongoing, character: number): View {
  const { expanded } = play.stage
  const kept = play.keptBy(character)
  const carries = expanded.items.map(({ name }, i) => [name, play.carried(character, i)] as const)
  return {
    spot: play.spotOf(character),
    walking: play.isWalking(character),
    candidates: play.candidates(character).map((index) => expanded.interactables[index]!.name),
    prompts: prompts(play, character),
    popup: play.telling.popupOf(character)?.text ?? null,
    pointerFree: play.telling.popupOf(character) !== null,
    showing: showing(play, character),
    icons: icons(play, character),
    options: options(play, character),
    ways: ways(play, character),
    dials: dials(play, character),
    keepsPressed: kept < 0 ? null : expanded.interactables[kept]!.name,
    carries: Object.fromEntries(carries.filter(([, count]) => count > 0)),
  }
}

function ways(play: Ongoing, character: number): View['ways'] {
  const { pressKinds, interactables } = play.stage.expanded
  return pressKinds.flatMap(({ press, option, chance }, pressKind) => {
    const [first] = option === null && chance === null && pressKind > 0 ? play.candidates(character, pressKind) : []
    return first === undefined ? [] : [{ way: press, interactable: interactables[first]!.name }]
  })
}

function dials(play: Ongoing, character: number): View['dials'] {
  const { wheels, interactables } = play.stage.expanded
  const near = play.within(character).filter((index) => play.canDial(character, index))
  return near.map((index) => {
    const own = interactables[index]!
    const at = play.wheelsOf(index)
    return {
      interactable: own.name,
      wheels: own.wheels.map((wheel, i) => ({ at: at[i]!, positions: wheels[wheel]!.positions })),
    }
  })
}

/** The first interactable that would be asked in any way, or whose wheels could be set; -1: none. */
function firstAsked(play: Ongoing, character: number): number {
  const { pressKinds } = play.stage.expanded
  const asked = new Set(pressKinds.map((_, pressKind) => play.candidates(character, pressKind)[0]))
  const first = play.within(character).find((index) => asked.has(index) || play.canDial(character, index))
  return first === undefined || play.isIgnoring(first) ? -1 : first
}

/** What is perceived for as long as a press would go to something. */
function focused(play: Ongoing, character: number): { first: number; entries: readonly Feedback[] } {
  const first = firstAsked(play, character)
  if (first < 0) return { first, entries: [] }
  const isAccepted = (): boolean =>
    play.stage.expanded.pressKinds.some(
      (_, pressKind) =>
        play.candidates(character, pressKind)[0] === first && play.wouldAccept(character, first, pressKind),
    )
  const entries = play.stage.expanded.interactables[first]!.feedback.focused ?? []
  return { first, entries: entries.filter(({ shown }) => shown !== 'if-accepted' || isAccepted()) }
}

function prompts(play: Ongoing, character: number): View['prompts'] {
  const { first, entries } = focused(play, character)
  return entries.flatMap(({ prompt, key }) =>
    prompt === undefined ? [] : [{ text: filledText(play.stage, prompt, first, null), key: key ?? null }],
  )
}

function showing(play: Ongoing, character: number): View['showing'] {
  const { first, entries } = focused(play, character)
  const now = entries.flatMap((entry) => {
    const channel = channelOf(entry)
    if (channel !== 'highlight' && channel !== 'light') return []
    return [{ channel, text: String(entry[channel]), interactable: play.stage.expanded.interactables[first]!.name }]
  })
  return [...now, ...play.telling.showing(character)]
}

function icons(play: Ongoing, character: number): View['icons'] {
  const { items } = play.stage.expanded
  const now = focused(play, character).entries.flatMap(({ icon, counts }) =>
    icon === undefined ? [] : [{ icon, counts: counts ?? null }],
  )
  return [...now, ...play.telling.icons(character)].flatMap(({ icon, counts }): View['icons'] => {
    if (counts === null) return [{ icon, count: null }]
    const count = play.carried(
      character,
      items.findIndex(({ name }) => name === counts),
    )
    return count > 0 ? [{ icon, count }] : []
  })
}

/** The options on the prompt of the first interactable near by that has some. */
function options(play: Ongoing, character: number): string[] {
  const any = play.stage.expanded.pressKinds.findIndex(({ option }) => option !== null)
  const [first] = any < 0 ? [] : play.candidates(character, any)
  return first === undefined ? [] : play.optionsOf(first, character)
}
