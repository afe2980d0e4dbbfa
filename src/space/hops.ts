import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import type { Signature } from './alternatives.ts'
import { boxOf } from './boxes.ts'
import { distance, type Point } from './geometry.ts'
import { cellAt, standing } from './grid.ts'
import type { Layout } from './layout.ts'
import { walkLeg } from './legs.ts'
import type { Patch } from './patch.ts'
import type { Patches } from './patches.ts'
import { surroundings } from './surroundings.ts'
import { corners, Flood, straightened, type Way, type WayRules } from './ways.ts'

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

/** The cells from one standing spot to another, both included. */
type Trail = readonly number[]

/** How far, in cells, two sure patches may lie apart and still be neighbours for a hop. */
const gap = 3

/** How far, in cells, a patch without certain cells may lie from the next one: as in a lane hardly wider than the character. */
const longestLane = 60

/** In so many cells of a patch without certain ones one looks for what lies near it. */
const mostLaneCells = 400

/** To more patches than this, as from a hall with many alcoves, ways are looked for all at once. */
const manyTargets = 12

/** So many strides there are from a patch, at the most. */
const mostStrides = 12

/**
 * The hops of one character, found as they are asked for. A way between two patches is looked for once, from the larger one, and
 * walked in both directions.
 */
export class Hops {
  readonly #layout: Layout
  readonly #ground: Patches
  readonly #person: PlacedCharacter
  readonly #known = new Map<number, readonly Hop[]>()
  readonly #strides = new Map<number, readonly Hop[]>()
  readonly #trails = new Map<number, ReadonlyMap<number, Trail>>()
  readonly #near = new Map<number, readonly number[]>()
  #lanes: ReadonlyMap<number, readonly number[]> | null = null

  constructor(expanded: Expanded, layout: Layout, ground: Patches, character: number) {
    this.#layout = layout
    this.#ground = ground
    this.#person = expanded.characters[character]!
  }

  /** The hops from a patch, by where they lead; none from one without a standing spot. Pauses now and then. */
  *from(patch: number): Generator<undefined, readonly Hop[]> {
    const found = this.#known.get(patch)
    if (found) return found
    const hops: Hop[] = []
    if (this.#ground.patches[patch]?.firm) {
      for (const to of this.#nearTo(patch)) {
        yield
        const trail = yield* this.#trail(patch, to)
        const hop = trail && this.#along(patch, to, trail)
        if (hop) hops.push(hop)
      }
    }
    this.#known.set(patch, hops)
    return hops
  }

  /**
   * Walks from a patch, past another one, straight to where something can be pressed: of those to which no hop leads the nearest.
   * A hop stops at a standing spot on the way, which may be a long way round. Pauses now and then.
   */
  *strides(patch: number): Generator<undefined, readonly Hop[]> {
    const found = this.#strides.get(patch)
    if (found) return found
    const { patches } = this.#ground
    const strides: Hop[] = []
    if (patches[patch]?.firm) {
      const near = this.#nearTo(patch)
      const beyond = new Set(near.flatMap((one) => this.#nearTo(one)))
      const { spot } = patches[patch]
      const targets = [...beyond].filter((to) => to !== patch && !near.includes(to) && canPressOn(patches[to]!))
      const byDistance = targets.sort((a, b) => distance(spot, patches[a]!.spot) - distance(spot, patches[b]!.spot))
      for (const to of byDistance.slice(0, mostStrides)) {
        yield
        const trail = this.#trailTo(patch, to)
        const stride = trail && this.#along(patch, to, trail)
        if (stride) strides.push(stride)
      }
    }
    this.#strides.set(patch, strides)
    return strides
  }

  *#trail(from: number, to: number): Generator<undefined, Trail | null> {
    const [larger, smaller] = this.#isLarger(from, to) ? [from, to] : [to, from]
    const trails = yield* this.#trailsFrom(larger)
    const isNear = this.#nearTo(larger).includes(smaller)
    const trail = isNear ? trails.get(smaller) : this.#trailTo(larger, smaller)
    if (!trail) return null
    return larger === from ? trail : [...trail].reverse()
  }

  #trailTo(from: number, to: number): Trail | null {
    const { grid, patches } = this.#ground
    const [start, end] = [patches[from]!, patches[to]!]
    const there = cellAt(grid, end.spot)
    const flood = new Flood(grid, cellAt(grid, start.spot), this.#rules([start.signature, end.signature]), there)
    let cell = flood.next()
    while (cell >= 0 && cell !== there) cell = flood.next()
    return cell < 0 ? null : flood.trail(cell)
  }

  #isLarger(one: number, other: number): boolean {
    const { patches } = this.#ground
    return patches[one]!.cells === patches[other]!.cells ? one < other : patches[one]!.cells > patches[other]!.cells
  }

  /** The ways from a patch to all smaller ones near it. */
  *#trailsFrom(patch: number): Generator<undefined, ReadonlyMap<number, Trail>> {
    const known = this.#trails.get(patch)
    if (known) return known
    const { grid, patches } = this.#ground
    const trails = new Map<number, Trail>()
    const { signature, spot } = patches[patch]!
    const targets = this.#nearTo(patch).filter((to) => this.#isLarger(patch, to))
    if (targets.length > manyTargets) {
      const byCell = new Map<number, number[]>()
      for (const to of targets) {
        const cell = cellAt(grid, patches[to]!.spot)
        byCell.set(cell, [...(byCell.get(cell) ?? []), to])
      }
      const flood = new Flood(grid, cellAt(grid, spot), this.#rules([signature]))
      for (let cell = flood.next(); cell >= 0 && byCell.size > 0; cell = flood.next()) {
        for (const to of byCell.get(cell) ?? []) trails.set(to, flood.trail(cell))
        byCell.delete(cell)
      }
    } else {
      for (const to of targets) {
        yield
        const trail = this.#trailTo(patch, to)
        if (trail) trails.set(to, trail)
      }
    }
    this.#trails.set(patch, trails)
    return trails
  }

  /** The hop between two standing spots, past these cells. Null where a wall is in the way. */
  #along(from: number, to: number, trail: Trail): Hop | null {
    const { grid, patches, sureAt } = this.#ground
    const layout = this.#layout
    const { radius } = this.#person
    const [start, end] = [patches[from]!, patches[to]!]
    const between = trail.slice(0, -1)
    const points = [start.spot, ...corners(layout, grid, between, radius), end.spot]
    const crossed = between.flatMap((at) => (sureAt[at]! >= 0 ? patches[sureAt[at]!]!.signature.bodies : []))
    const left = new Set([...crossed, ...start.signature.bodies, ...end.signature.bodies])
    const near = layout.near.bodies.near(boxOf(points), radius)
    const bodies = near.filter((body) => !left.has(body)).map((body) => layout.figures[body]!.body!)
    // What the trail goes round is gone round: zones that neither its ends nor its cells are in are not cut across.
    const met = new Set([...start.signature.zones, ...end.signature.zones])
    for (const at of between)
      if (sureAt[at]! >= 0) for (const zone of patches[sureAt[at]!]!.signature.zones) met.add(zone)
    const isFree = (a: Point, b: Point): boolean =>
      walkLeg(layout, a, b, radius, this.#person.speed).crossings.every(
        ({ kind, index }) => kind === 'body' || met.has(index),
      )
    const way = straightened(layout, points, { bodies, radius }, isFree)
    return timedHop(layout, this.#person, start.spot, way, to)
  }

  /** Rules for a walk: out of zones and bodies that its ends are not in, as far as that can be. */
  #rules(ends: readonly Signature[]): WayRules {
    const { patches, sureAt } = this.#ground
    const zones = ends.flatMap((end) => end.zones)
    const bodies = ends.flatMap((end) => end.bodies)
    /** By patch, what it costs more to enter its cells; -1: not asked for yet. */
    const known = new Int32Array(patches.length).fill(-1)
    const costOf = ({ signature }: Patch): number => {
      const strange = signature.zones.filter((zone) => !zones.includes(zone)).length
      return 30 * strange + (signature.bodies.some((body) => !bodies.includes(body)) ? 60 : 0)
    }
    const cost = (cell: number): number => {
      const patch = sureAt[cell]!
      if (patch < 0) return 5
      if (known[patch]! < 0) known[patch] = costOf(patches[patch]!)
      return known[patch]!
    }
    return { bodies: [], cost, radius: this.#person.radius, room: standing.maybe }
  }

  /** The patches to which there may be hops from one, ascending; it is one of theirs, too. */
  #nearTo(patch: number): readonly number[] {
    const known = this.#near.get(patch)
    if (known) return known
    const { patches, rims } = this.#ground
    const near = new Set([...nearPatches(this.#ground, patch), ...(this.#lanesTo().get(patch) ?? [])])
    // What is true of no spot but those of a lane is left again at its other end.
    for (const lane of [...near]) {
      if (patches[lane]!.sure || rims[lane]!.length > 0) continue
      for (const beyond of nearPatches(this.#ground, lane)) near.add(beyond)
    }
    near.delete(patch)
    const made = [...near].sort((a, b) => a - b)
    this.#near.set(patch, made)
    return made
  }

  /** By patch, those without certain cells that lie near it by their own reckoning: what leads out of a lane leads into it. */
  #lanesTo(): ReadonlyMap<number, readonly number[]> {
    if (this.#lanes) return this.#lanes
    const made = new Map<number, number[]>()
    for (const [patch, { firm }] of this.#ground.patches.entries()) {
      if (!firm || this.#ground.rims[patch]!.length > 0) continue
      for (const near of nearPatches(this.#ground, patch)) made.set(near, [...(made.get(near) ?? []), patch])
    }
    return (this.#lanes = made)
  }
}

function canPressOn({ firm, signature }: Patch): boolean {
  return firm && signature.candidates.length > 0
}

/** Times a way as Play walks it: leg by leg, each rounded up to the millisecond. Null where a wall is in the way. */
export function timedHop(layout: Layout, person: PlacedCharacter, from: Point, way: Way, to: number): Hop | null {
  const events: HopEvent[] = []
  const here = surroundings({ layout }, person, from)
  const within = { zones: new Set(here.zones), bodies: new Set(here.bodies) }
  let at = from
  let ms = 0
  for (const corner of way.via) {
    const leg = walkLeg(layout, at, corner, person.radius, person.speed, within)
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
