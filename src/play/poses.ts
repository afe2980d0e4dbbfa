import type { Tables } from '../machine/index.ts'
import { type Figure, moved, type Point, turned } from '../space/index.ts'

/** How a body is moved from where it stands when it is shut. */
export interface Transform {
  /** Degrees about its hinge, counter-clockwise. */
  readonly turn: number
  /** Metres in its own frame. */
  readonly shift: readonly [number, number, number]
  /** How much of it is there: 1 all of it, 0 it has vanished. */
  readonly there: number
}

/** The body of an interactable in the level's frame, moved as it is now; null: it has none, or has vanished. */
export function bodyNow({ body, pivot, turn }: Figure, transform: Transform): readonly Point[] | null {
  if (!body || !pivot || transform.there <= 0) return null
  const [x, y] = turned([transform.shift[0], transform.shift[1]], turn)
  return body.map((corner) => {
    const about = moved(turned([corner[0] - pivot[0], corner[1] - pivot[1]], transform.turn), pivot)
    return moved(about, [x, y])
  })
}

/** How far open an interactable is: 0 shut, 1 open; between them while it moves. Clocks count milliseconds. */
export function poseOf({ at, states, expanded }: Tables, regs: Int32Array, interactable: number): number {
  const state = regs[interactable]!
  const { motion } = states[interactable]![state]!
  if (!motion) return regs[at.pose(interactable)]!
  const value = motion.clock < 0 ? 0 : regs[at.clock(motion.clock)]!
  const rest = value > 0 ? (value - 1) / motion.over : 0
  const share = motion.to === 1 ? 1 - rest : rest
  const isSoft = expanded.interactables[interactable]!.states[state]!.motion?.isSoft ?? false
  return isSoft ? share * share * (3 - 2 * share) : share
}

/** How the body of an interactable is moved; at rest, as its first motion would have left it. */
export function transformOf(tables: Tables, regs: Int32Array, interactable: number): Transform {
  const { states } = tables.expanded.interactables[interactable]!
  const motion = states[regs[interactable]!]!.motion ?? states.find((state) => state.motion)?.motion
  if (!motion) return { turn: 0, shift: [0, 0, 0], there: 1 }
  const pose = poseOf(tables, regs, interactable)
  const { kind, turn, slide } = motion
  return {
    turn: kind === 'turn' ? turn * pose : 0,
    shift: kind === 'slide' ? [slide[0] * pose, slide[1] * pose, slide[2] * pose] : [0, 0, 0],
    there: kind === 'vanish' ? 1 - pose : 1,
  }
}
