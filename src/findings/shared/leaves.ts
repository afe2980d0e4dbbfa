import type { Placed, PlacedMotion } from '../../interactables/index.ts'
import { bodyNow, type Stage } from '../../play/index.ts'
import { inPolygon, type Point } from '../../space/index.ts'
import { inCentimetres } from './ground.ts'

/** A body that moves: how, and where it comes to stand. */
export interface Leaf {
  readonly placed: Placed
  readonly motion: PlacedMotion
  readonly path: string
}

/** Something that a leaf comes into. */
export interface Hit {
  readonly what: string
  /** At which share of its way, from 0 to 1. */
  readonly share: number
  /** Where, in metres; rounded to centimetres. */
  readonly at: Point
}

/** How far inside of both outlines a spot must be for a leaf to be in something, in metres: what just touches is no matter. */
const inset = 0.03

/** Bodies that turn, or slide along the ground, as they open. */
export function leavesOf({ expanded, space }: Stage): Leaf[] {
  return expanded.interactables.flatMap((placed) => {
    // What goes up or down is out of the way of everything.
    const isLevel = ({ kind, slide }: PlacedMotion): boolean => kind === 'turn' || Math.abs(slide[2]) < 0.3
    const state = placed.states.find(({ motion }) => motion?.to === 1 && motion.kind !== 'vanish' && isLevel(motion))
    const isThere = space.layout.figures[placed.index]!.body !== null
    return state?.motion && isThere ? [{ placed, motion: state.motion, path: state.path }] : []
  })
}

/** The first thing that a leaf comes into on its way: an obstacle that nobody walks through, or the body of something else. */
export function firstHit(stage: Stage, leaf: Leaf): Hit | null {
  const others = thingsBeside(stage, leaf.placed)
  const steps = Math.max(12, Math.ceil(Math.abs(leaf.motion.turn) / 3))
  for (let i = 1; i <= steps; i++) {
    const share = i / steps
    for (const spot of spotsIn(stage, leaf, share)) {
      const hit = others.find(({ outline }) => inPolygon(spot, outline))
      if (hit) return { what: hit.name, share, at: inCentimetres(spot) }
    }
  }
  return null
}

/** How much of a leaf, once it is open, still stands in the doorway that it fills: from 0 to 1. */
export function shareInDoorway(stage: Stage, leaf: Leaf): number {
  const { doorways } = stage.space.layout
  const outline = doorways.find(({ name }) => name === leaf.placed.doorway)?.outline
  if (!outline) return 0
  const spots = spotsIn(stage, leaf, 1)
  return spots.filter((spot) => inPolygon(spot, outline)).length / Math.max(1, spots.length)
}

/** Spots all over a leaf at some share of its way, none of them at its rim. */
function spotsIn(stage: Stage, { placed, motion }: Leaf, share: number): Point[] {
  const figure = stage.space.layout.figures[placed.index]!
  const { kind, turn, slide } = motion
  const body = bodyNow(figure, {
    turn: kind === 'turn' ? turn * share : 0,
    shift: kind === 'slide' ? [slide[0] * share, slide[1] * share, slide[2] * share] : [0, 0, 0],
    there: 1,
  })
  const [a, b, , d] = body ?? []
  if (!a || !b || !d) return []
  const [across, along] = [side(a, b), side(a, d)]
  const spots: Point[] = []
  for (const s of shares(across.length)) {
    for (const t of shares(along.length)) {
      const [u, v] = [s * across.length, t * along.length]
      spots.push([a[0] + across.way[0] * u + along.way[0] * v, a[1] + across.way[1] * u + along.way[1] * v])
    }
  }
  return spots
}

function side(from: Point, to: Point): { readonly way: Point; readonly length: number } {
  const length = Math.hypot(to[0] - from[0], to[1] - from[1])
  return { way: length === 0 ? [0, 0] : [(to[0] - from[0]) / length, (to[1] - from[1]) / length], length }
}

/** Shares along a side, from one end to the other, both a little inside. */
function shares(length: number): number[] {
  const off = Math.min(0.45, inset / Math.max(length, 1e-6))
  return [0, 0.2, 0.4, 0.6, 0.8, 1].map((share) => off + share * (1 - 2 * off))
}

/** What stands about, by name: obstacles that nobody walks through, and bodies of other interactables that never make way. */
function thingsBeside({ expanded, space }: Stage, own: Placed): { name: string; outline: readonly Point[] }[] {
  const obstacles = Object.entries(expanded.level.obstacles ?? {}).flatMap(([name, { outline, blocks }]) =>
    blocks === undefined || blocks.includes('walk') ? [{ name, outline: outline }] : [],
  )
  const bodies = expanded.interactables.flatMap(({ index, name, states, doorway }) => {
    const { body } = space.layout.figures[index]!
    const isFixed = doorway === null && states.every((state) => state.isSpare || state.blocksWalk)
    return body && isFixed && index !== own.index ? [{ name, outline: body }] : []
  })
  return [...obstacles, ...bodies]
}
