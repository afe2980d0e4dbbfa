import { type Expanded, levelIn, levelOfCharacter } from '../interactables/index.ts'
import { finish } from '../model/index.ts'
import type { Point } from './geometry.ts'
import { cellAt, makeGrid, middleOf, standing } from './grid.ts'
import { layOut } from './laying-out.ts'
import { canStand, type Layout } from './layout.ts'
import { type Hop, Hops } from './hops.ts'
import { cutPatches, type Patches } from './patches.ts'
import { bodiesOn, surroundings } from './surroundings.ts'
import { findWay, type Way } from './ways.ts'

/** A level on the ground, and nothing yet of who can stand where: enough to draw it. */
export interface LaidOut {
  readonly expanded: Expanded
  readonly space: { readonly layout: Layout }
}

/** Puts a level on the ground, without cutting that into patches. */
export function laidOut(expanded: Expanded): LaidOut {
  return { expanded, space: { layout: finish(layOut(expanded)) } }
}

/** A level on the ground, with the patches of each character. Nothing in it changes in a play. */
export interface Space {
  readonly expanded: Expanded
  readonly layout: Layout
  /** By the index of the character. */
  readonly patches: readonly Patches[]
  /** The hops of a character from a sure patch to the sure patches near by; found when first asked for. */
  hops(character: number, patch: number): readonly Hop[]
  /** Walks past one patch, straight to where something can be pressed; found when first asked for. */
  strides(character: number, patch: number): readonly Hop[]
  /** Finds the hops of a character from all patches, with pauses, so that they are at hand. */
  findHops(character: number): Generator<undefined, void>
  /** The patch on which a character stands that is moved to a place; -1 where it cannot stand there: then it stays. */
  landing(character: number, place: number): number
  /** Characters of whom only that is kept of which bodies they are in the way; they stand nowhere. Left out where all are somewhere. */
  readonly merged?: {
    readonly characters: ReadonlySet<number>
    readonly bodies: readonly number[]
    /** The bodies in whose way some of them are where they start. */
    readonly barredAtFirst: ReadonlySet<number>
  }
  /** The bodies that come and go on which a character is that stands in the middle of a cell; found when first asked for. */
  onCell(character: number, cell: number): readonly number[]
}

/** Metres between samples where a level does not say. */
export const usualResolution = 0.1

/** Lays a level out, and cuts the ground of each character into patches. Yields every few milliseconds. */
export function* makeSpace(expanded: Expanded): Generator<undefined, Space> {
  const layout = yield* layOut(expanded)
  const size = expanded.level.resolution ?? usualResolution
  const patches: Patches[] = []
  for (const [who, character] of expanded.characters.entries()) {
    yield
    const rooms = ownRooms(expanded, who)
    const grid = yield* makeGrid(layout, character, size, rooms)
    patches.push(yield* cutPatches(expanded, layout, character, grid))
  }
  const hops = patches.map((ground, who) => new Hops(expanded, layout, ground, who))
  const onCells: Map<number, readonly number[]>[] = []
  const landings = expanded.characters.map(({ radius }, who) => {
    return expanded.places.map(({ at }) => (canStand(layout, at, radius) ? patches[who]!.patchAt(at) : -1))
  })
  const space: Space = {
    expanded,
    layout,
    patches,
    hops: (character, patch) => finish(hops[character]!.from(patch)),
    strides: (character, patch) => finish(hops[character]!.strides(patch)),
    *findHops(character) {
      for (const { index } of patches[character]!.patches) yield* hops[character]!.from(index)
    },
    landing: (character, place) => landings[character]![place]!,
    onCell(character, cell) {
      const known = (onCells[character] ??= new Map())
      let bodies = known.get(cell)
      if (!bodies) {
        const { radius } = expanded.characters[character]!
        bodies = bodiesOn(layout, middleOf(patches[character]!.grid, cell), radius)
        known.set(cell, bodies)
      }
      return bodies
    },
  }
  return space
}

/** Whether a room or a doorway is where a character may come: whoever stays in one of several levels comes to no other. */
function ownRooms(expanded: Expanded, who: number): (name: string) => boolean {
  const level = levelOfCharacter(expanded, who)
  const own = level < 0 ? null : expanded.joined!.parts[level]!.name
  return (name) => own === null || levelIn(name).level === own
}

/**
 * A way for a character to the nearest cell that `isThere` names, over ground that blocking bodies leave free. Those that
 * it stands in the way of do not keep it from walking.
 */
export function wayTo(
  space: Space,
  character: number,
  from: Point,
  isThere: (cell: number) => boolean,
  blocking: readonly number[],
): Way | null {
  return wayPast(space, character, from, isThere, blocked(space, character, from, blocking), null)
}

/** A way for a character to a spot; see `wayTo`. */
export function wayToSpot(
  space: Space,
  character: number,
  from: Point,
  spot: Point,
  blocking: readonly number[],
): Way | null {
  const { grid } = space.patches[character]!
  const cell = cellAt(grid, spot)
  if (cell < 0) return null
  const isBlocked = blocked(space, character, from, blocking)
  const known = found.get(space) ?? new Map<string, Way | null>()
  found.set(space, known)
  const key = [character, ...from, ...spot, ...isBlocked].join()
  const before = known.get(key)
  if (before !== undefined) return before
  const may = mayComeTo(space.patches[character]!, from, spot, isBlocked)
  const way = may ? wayPast(space, character, from, (at) => at === cell, isBlocked, spot) : null
  if (known.size >= mostFound) known.clear()
  known.set(key, way)
  return way
}

/** Ways to spots in each level, by all that they depend on: while plays are tried, the same ways are walked again and again. */
const found = new WeakMap<Space, Map<string, Way | null>>()
const mostFound = 10_000

/** The blocking bodies that keep a character on a spot from walking: not those that it stands in the way of. */
function blocked(space: Space, character: number, from: Point, blocking: readonly number[]): ReadonlySet<number> {
  const own = surroundings(space, space.expanded.characters[character]!, from).bodies
  return new Set(blocking.filter((body) => !own.includes(body)))
}

function wayPast(
  space: Space,
  character: number,
  from: Point,
  isThere: (cell: number) => boolean,
  isBlocked: ReadonlySet<number>,
  last: Point | null,
): Way | null {
  const { grid, patches, sureAt } = space.patches[character]!
  const { radius } = space.expanded.characters[character]!
  const bodies = [...isBlocked].flatMap((index) => [space.layout.figures[index]!.body ?? []])
  const cost = (cell: number): number => {
    const patch = sureAt[cell]!
    const on = patch < 0 ? space.onCell(character, cell) : patches[patch]!.signature.bodies
    if (on.some((body) => isBlocked.has(body))) return -1
    return patch < 0 ? 5 : 0
  }
  const rules = { bodies, cost, radius }
  for (const room of [standing.everywhere, standing.middle, standing.maybe]) {
    const way = findWay(space.layout, grid, from, isThere, { ...rules, room }, last)
    if (way) return way
  }
  return null
}

/** Whether patches that may be beside each other lead from one spot to another, past some bodies; quickly told. */
function mayComeTo(
  { patchAt, patches, beside }: Patches,
  from: Point,
  to: Point,
  isBlocked: ReadonlySet<number>,
): boolean {
  const [start, end] = [patchAt(from), patchAt(to)]
  if (start < 0 || end < 0) return true
  const seen = new Set([start])
  for (const patch of seen) {
    if (patch === end) return true
    for (const next of beside[patch]!)
      if (!patches[next]!.signature.bodies.some((body) => isBlocked.has(body))) seen.add(next)
  }
  return false
}
