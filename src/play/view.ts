import type { Point } from '../space/index.ts'
import { filledText } from './logbook.ts'
import type { Ongoing } from './stage.ts'

/** What a character perceives and could do, at one moment. */
export interface View {
  readonly spot: Point
  readonly walking: boolean
  /** The interactables that could answer a press from here and now, first choice first. */
  readonly candidates: readonly string[]
  /** The prompts of the first interactable that a press, or a choice, would go to. */
  readonly prompts: readonly string[]
  /** The options that could be chosen from here and now. */
  readonly options: readonly string[]
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
    options: options(play, character),
    keepsPressed: kept < 0 ? null : expanded.interactables[kept]!.name,
    carries: Object.fromEntries(carries.filter(([, count]) => count > 0)),
  }
}

/** The prompts of the first interactable that would be asked in any way. */
function prompts(play: Ongoing, character: number): string[] {
  const { asks, interactables } = play.stage.expanded
  const asked = new Set(asks.map((_, ask) => play.candidates(character, ask)[0]))
  const first = play.within(character).find((index) => asked.has(index))
  if (first === undefined || play.isIgnoring(first)) return []
  return (interactables[first]!.feedback.noticed ?? []).flatMap(({ prompt }) =>
    prompt === undefined ? [] : [filledText(play.stage, prompt, first, [])],
  )
}

/** The options on the prompt of the first interactable near by that has some. */
function options(play: Ongoing, character: number): string[] {
  const any = play.stage.expanded.asks.findIndex(({ option }) => option !== null)
  const [first] = any < 0 ? [] : play.candidates(character, any)
  return first === undefined ? [] : play.optionsOf(first)
}
