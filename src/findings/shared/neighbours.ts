import type { Stage } from '../../play/index.ts'
import type { Candidate, Point } from '../../space/index.ts'
import { whoMayAsk } from './who.ts'

/** How much of the ground from which something could be pressed is left to it by its neighbours. */
export interface Shares {
  readonly machine: number
  /** Whose ground it is: the first player that may press it. */
  readonly who: number
  /** The cells of that ground, and those of them on which a press goes there. */
  readonly cells: number
  readonly first: number
  /** What answers before it, whatever state it is in, where it does not. */
  readonly by: readonly number[]
  /** Where one stands on the largest piece of ground on which it does not answer. */
  readonly spot: Point
}

const known = new WeakMap<Stage, readonly Shares[]>()

/** Of everything that is pressed without being looked at. */
export function answeredShares(stage: Stage): readonly Shares[] {
  const before = known.get(stage)
  if (before) return before
  const shares = stage.expanded.interactables.flatMap(({ index, aim }) => {
    const isPressed = stage.space.layout.figures[index]!.pressable
    const players = whoMayAsk(stage, index).filter((who) => stage.expanded.characters[who]!.role === 'player')
    const isLookedAt = aim !== null || players.some((who) => stage.expanded.characters[who]!.probe !== null)
    return isPressed && !isLookedAt && players.length > 0 ? [sharesOf(stage, index, players[0]!)] : []
  })
  known.set(stage, shares)
  return shares
}

function sharesOf(stage: Stage, machine: number, who: number): Shares {
  let [cells, first, largest] = [0, 0, -1]
  let spot: Point = [0, 0]
  const by = new Set<number>()
  for (const patch of stage.space.patches[who]!.patches) {
    const { candidates } = patch.signature
    const at = candidates.findIndex(({ interactable, lingers }) => interactable === machine && !lingers)
    if (at < 0) continue
    const before = candidates.slice(0, at).filter((one) => isAlways(stage, one, who))
    cells += patch.cells
    if (before.length === 0) first += patch.cells
    else {
      for (const { interactable } of before) by.add(interactable)
      if (patch.cells > largest) [largest, spot] = [patch.cells, patch.spot]
    }
  }
  return { machine, who, cells, first, by: [...by], spot }
}

/** Whether something answers a press, or ignores it, in every state that it is meant to come to, and nobody who presses it needs to look at it. */
function isAlways({ expanded, tables }: Stage, { interactable, hiders, lingers }: Candidate, who: number): boolean {
  const { states, aim } = expanded.interactables[interactable]!
  if (aim !== null || lingers || hiders.length > 0) return false
  return states.every(({ isSpare }, state) => isSpare || tables.states[interactable]![state]!.answers[who]![0])
}
