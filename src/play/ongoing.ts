import type { Point } from '../space/index.ts'
import type { Stage } from './stage.ts'
import type { Telling } from './telling.ts'

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
  /** The options that an interactable offers a character in its present state. */
  optionsOf(interactable: number, character: number): string[]
  /** Whether a press of some kind on an interactable would be accepted now. */
  wouldAccept(character: number, interactable: number, pressKind: number): boolean
  /** What is perceived. */
  readonly telling: Telling
  /** Whether an interactable ignores a press in its present state, on purpose. */
  isIgnoring(interactable: number): boolean
  /** How far a counter has counted. */
  countOf(counter: number): number
  /** The zones that a character is in, by their numbers. */
  zonesOf(character: number): number[]
  /** The state that an interactable is in, by name. */
  stateOf(interactable: number): string
  /** The interactables that could answer a press of a character, as it stands and looks, first choice first. */
  candidates(character: number, pressKind?: number): number[]
  /** Whether an interactable would answer, or ignore, a press of some kind by a character in its present state. */
  isAnswering(interactable: number, character: number): boolean
  /** Where the wheels of a dial stand. */
  wheelsOf(interactable: number): number[]
  /** Whether a character can set a dial from here and now. */
  canDial(character: number, interactable: number): boolean
  /** How much of an item is left in an interactable. */
  leftIn(interactable: number, item: number): number
  /** Whether the body of an interactable blocks sight in its present state. */
  isHiding(interactable: number): boolean
  /** The interactables whose bodies block walking now. */
  blocking(): number[]
}
