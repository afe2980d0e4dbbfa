import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import { finish } from '../model/index.ts'
import type { Point } from './geometry.ts'
import { cellAt, makeGrid, middleOf, standing } from './grid.ts'
import { layOut } from './laying-out.ts'
import { canStand, type Layout } from './layout.ts'
import { boxAround } from './boxes.ts'
import { handsBreadth, inZone, onBody, walkLeg } from './legs.ts'
import { cutPatches, type Patches } from './patches.ts'
import { corners, findWay, Flood, straightened, type Way, type WayRules } from './ways.ts'

/** A level on the ground, with the patches of each character. Nothing in it changes in a play. */
export interface Space {
  readonly expanded: Expanded
  readonly layout: Layout
  /** By the index of the character. */
  readonly patches: readonly Patches[]
  /** The hops of a character from a sure patch to the sure patches near by; found when first asked for. */
  hops(character: number, patch: number): readonly Hop[]
  /** Finds the hops of a character from all patches, with pauses, so that they are at hand. */
  findHops(character: number): Generator<undefined, void>
  /** The patch on which a character stands that is moved to a place; -1 where it cannot stand there: then it stays. */
  landing(character: number, place: number): number
  /** The bodies that come and go on which a character is that stands in the middle of a cell; found when first asked for. */
  onCell(character: number, cell: number): readonly number[]
}

/** Metres between samples where a level does not say. */
export const usualResolution = 0.1

/**
 * Lays a level out, and cuts the ground of each character into patches. What is in `everywhere` answers from every
 * spot, behind all others. Yields every few milliseconds.
 */
export function* makeSpace(expanded: Expanded, everywhere: ReadonlySet<number>): Generator<undefined, Space> {
  const layout = yield* layOut(expanded, everywhere)
  const size = expanded.level.resolution ?? usualResolution
  const patches: Patches[] = []
  for (const character of expanded.characters) {
    yield
    const grid = yield* makeGrid(layout, character, size)
    patches.push(yield* cutPatches(expanded, layout, character, grid))
  }
  const known = new Map<string, readonly Hop[]>()
  const onCells: Map<number, readonly number[]>[] = []
  const landings = expanded.characters.map(({ radius }, who) => {
    return expanded.places.map(({ at }) => (canStand(layout, at, radius) ? patches[who]!.patchAt(at) : -1))
  })
  function* hopsOf(character: number, patch: number): Generator<undefined, readonly Hop[]> {
    const key = `${String(character)} ${String(patch)}`
    const found = known.get(key)
    if (found) return found
    const isFirm = patches[character]?.patches[patch]?.firm ?? false
    const hops = isFirm ? yield* hopsFrom(space, character, patch) : []
    known.set(key, hops)
    return hops
  }
  const space: Space = {
    expanded,
    layout,
    patches,
    hops: (character, patch) => finish(hopsOf(character, patch)),
    *findHops(character) {
      for (const { index } of patches[character]!.patches) yield* hopsOf(character, index)
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

/** Something that changes on a hop, in the order in which Play meets it. */
export interface HopEvent {
  /** Whole milliseconds after the hop began. */
  readonly ms: number
  readonly kind: 'zone' | 'body'
  readonly index: number
  readonly inside: boolean
}

/** A walk from the standing spot of a sure patch to that of another, on certain ground only. */
export interface Hop {
  readonly to: number
  readonly via: readonly Point[]
  readonly ms: number
  readonly events: readonly HopEvent[]
}

/** How far, in cells, two sure patches may lie apart and still be neighbours for a hop. */
const gap = 3

/** How far, in cells, a patch without certain cells may lie from the next one: as in a lane hardly wider than the character. */
const longestLane = 60

/** In so many cells of a patch without certain ones one looks for what lies near it. */
const mostLaneCells = 400

function* hopsFrom(space: Space, character: number, patch: number): Generator<undefined, Hop[]> {
  const ground = space.patches[character]!
  const near = new Set([...nearPatches(ground, patch), ...(lanesTo(ground).get(patch) ?? [])])
  // What is true of no spot but those of a lane is left again at its other end.
  for (const lane of [...near]) {
    if (!ground.patches[lane]!.sure && ground.rims[lane]!.length === 0)
      for (const beyond of nearPatches(ground, lane)) near.add(beyond)
  }
  near.delete(patch)
  const hops: Hop[] = []
  for (const to of [...near].sort((a, b) => a - b)) {
    yield
    const hop = hopBetween(space, character, patch, to)
    if (hop) hops.push(hop)
  }
  return hops
}

function hopBetween(space: Space, character: number, from: number, to: number): Hop | null {
  const { grid, patches, sureAt } = space.patches[character]!
  const [start, end] = [patches[from]!, patches[to]!]
  const rules = hopRules(space, character, start.signature.bodies, start.signature.zones)
  const there = cellAt(grid, end.spot)
  const flood = new Flood(grid, cellAt(grid, start.spot), rules, there)
  for (let cell = flood.next(); cell >= 0; cell = flood.next()) {
    if (cell !== there) continue
    const trail = flood.trail(cell).slice(0, -1)
    const crossed = new Set(trail.flatMap((at) => (sureAt[at]! >= 0 ? patches[sureAt[at]!]!.signature.bodies : [])))
    const bodies = bodiesBut(space, new Set([...crossed, ...start.signature.bodies, ...end.signature.bodies]))
    const way = straightened(
      space.layout,
      [start.spot, ...corners(space.layout, grid, trail, rules.radius), end.spot],
      { ...rules, bodies },
    )
    return timedHop(space, space.expanded.characters[character]!, start.spot, way, to)
  }
  return null
}

/** Times a way as Play walks it: leg by leg, each rounded up to the millisecond. Null where a wall is in the way. */
export function timedHop(space: Space, person: PlacedCharacter, from: Point, way: Way, to: number): Hop | null {
  const events: HopEvent[] = []
  const here = surroundings(space, person, from)
  const within = { zones: new Set(here.zones), bodies: new Set(here.bodies) }
  let at = from
  let ms = 0
  for (const corner of way.via) {
    const leg = walkLeg(space.layout, at, corner, person.radius, person.speed, within)
    if (leg.walled) return null
    for (const crossing of leg.crossings) {
      events.push({ ...crossing, ms: ms + crossing.ms })
      const set = crossing.kind === 'zone' ? within.zones : within.bodies
      if (crossing.inside) set.add(crossing.index)
      else set.delete(crossing.index)
    }
    ms += leg.ms
    at = corner
  }
  return { to, via: way.via, ms, events }
}

/** Rules for a walk between spots: clear of other bodies and out of other zones, as far as that can be. */
function hopRules(space: Space, character: number, bodies: readonly number[], zones: readonly number[]): WayRules {
  const { patches, sureAt } = space.patches[character]!
  const cost = (cell: number): number => {
    const patch = sureAt[cell]!
    if (patch < 0) return 5
    const { signature } = patches[patch]!
    const strange = signature.zones.filter((zone) => !zones.includes(zone)).length
    return 30 * strange + (signature.bodies.some((body) => !bodies.includes(body)) ? 60 : 0)
  }
  return { bodies: [], cost, radius: space.expanded.characters[character]!.radius, room: standing.maybe }
}

function bodiesBut(space: Space, left: ReadonlySet<number>): (readonly Point[])[] {
  return space.layout.figures.flatMap((figure, i) =>
    figure.comesAndGoes && figure.body && !left.has(i) ? [figure.body] : [],
  )
}

/** By patch, those without certain cells that lie near it by their own reckoning: what leads out of a lane leads into it. */
function lanesTo(ground: Patches): ReadonlyMap<number, readonly number[]> {
  const known = lanes.get(ground)
  if (known) return known
  const made = new Map<number, number[]>()
  for (const [patch, { firm }] of ground.patches.entries()) {
    if (!firm || ground.rims[patch]!.length > 0) continue
    for (const near of nearPatches(ground, patch)) made.set(near, [...(made.get(near) ?? []), patch])
  }
  lanes.set(ground, made)
  return made
}

const lanes = new WeakMap<Patches, ReadonlyMap<number, readonly number[]>>()

/** The sure patches that lie at most `gap` cells from a cell of this one, with ground between. */
function nearPatches(ground: Patches, patch: number): number[] {
  const { grid, sureAt, rims, thinAt, patches } = ground
  const { columns, rows, stands } = grid
  const found = new Set<number>()
  const add = (other: number): void => {
    if (other !== patch && patches[other]!.firm) found.add(other)
  }
  const seen = new Set<number>()
  let wave: readonly number[] = rims[patch]!.length > 0 ? rims[patch]! : laneCells(ground, patch)
  for (const cell of wave) for (const thin of thinAt.get(cell) ?? []) add(thin)
  const isLane = rims[patch]!.length === 0
  for (let step = 0; step <= gap || (isLane && found.size === 0 && step <= longestLane); step++) {
    if (wave.length === 0) break
    const ahead: number[] = []
    for (const cell of wave) {
      const column = cell % columns
      for (let dy = -1; dy <= 1; dy++) {
        for (let dx = -1; dx <= 1; dx++) {
          const next = cell + dy * columns + dx
          if (column + dx < 0 || column + dx >= columns || next < 0 || next >= columns * rows) continue
          if (stands[next] === standing.nowhere || sureAt[next] === patch || seen.has(next)) continue
          seen.add(next)
          for (const thin of thinAt.get(next) ?? []) add(thin)
          if (sureAt[next]! >= 0 && patches[sureAt[next]!]!.firm) add(sureAt[next]!)
          else ahead.push(next)
        }
      }
    }
    wave = ahead
  }
  return [...found].sort((a, b) => a - b)
}

/** Cells in which a patch without certain cells has parts that hang together with its spot, not too far off. */
function laneCells({ grid, patches, patchesIn }: Patches, patch: number): number[] {
  const { columns, rows } = grid
  const found = new Set([cellAt(grid, patches[patch]!.spot)])
  for (const cell of found) {
    if (found.size > mostLaneCells) break
    for (let dy = -1; dy <= 1; dy++) {
      for (let dx = -1; dx <= 1; dx++) {
        const next = cell + dy * columns + dx
        if ((cell % columns) + dx < 0 || (cell % columns) + dx >= columns || next < 0 || next >= columns * rows)
          continue
        if (!found.has(next) && patchesIn(next).includes(patch)) found.add(next)
      }
    }
  }
  return [...found]
}

/** What is so at a spot for a character: the zones it is in, and the bodies it is in the way of, both ascending. */
export function surroundings(
  { layout }: Space,
  { radius }: PlacedCharacter,
  p: Point,
): { zones: number[]; bodies: number[] } {
  const { near, zones } = layout
  const box = boxAround(p, radius + handsBreadth)
  return {
    zones: near.zones.near(box, 0).filter((zone) => inZone(zones[zone]!, p, radius)),
    bodies: bodiesOn(layout, p, radius),
  }
}

/** The bodies that come and go on which a character of some radius is at a spot. */
function bodiesOn({ near, figures }: Layout, p: Point, radius: number): number[] {
  return near.bodies
    .near(boxAround(p, radius + handsBreadth), 0)
    .filter((body) => onBody(figures[body]!.body!, p, radius))
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
  last: Point | null = null,
): Way | null {
  const { grid, patches, sureAt } = space.patches[character]!
  const person = space.expanded.characters[character]!
  const { radius } = person
  const own = surroundings(space, person, from).bodies
  const isBlocked = new Set(blocking.filter((body) => !own.includes(body)))
  if (last && !mayComeTo(space.patches[character]!, from, last, isBlocked)) return null
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

/** A way for a character to a spot; see `wayTo`. */
export function wayToSpot(
  space: Space,
  character: number,
  from: Point,
  spot: Point,
  blocking: readonly number[],
): Way | null {
  const cell = cellAt(space.patches[character]!.grid, spot)
  return cell < 0 ? null : wayTo(space, character, from, (at) => at === cell, blocking, spot)
}
