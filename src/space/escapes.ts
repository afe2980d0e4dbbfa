import { type Border, type Disc, endsBeside, isClearWalk } from './clear-walk.ts'
import { eachFar, eachNear, endsNear } from './ends.ts'
import type { Point } from './geometry.ts'
import { cellAt, middleOf } from './grid.ts'
import type { Ground } from './ground.ts'
import type { Homes } from './homes.ts'
import type { Patch } from './patch.ts'
import { mostHalvings, Parts } from './parts.ts'
import { only, type Signature } from './alternatives.ts'
import { canStand } from './layout.ts'
import { isWithin } from './signatures.ts'
import { cornersOf } from './squares.ts'

/** A ground that has been cut. */
export interface Cut extends Ground {
  /** The patch of each node. */
  readonly numbers: Int32Array
  readonly patches: readonly Patch[]
  readonly sureAt: Int32Array
  readonly depth: Int32Array
  /** The nodes of each patch that is not sure. */
  readonly unsure: ReadonlyMap<number, readonly number[]>
  readonly homes: Pick<Homes, 'spots' | 'fromSpot'>
}

/** See `Patches.escapes`. */
export function escapesFrom(cut: Cut, patch: number): (readonly number[])[] {
  const { terrain } = cut
  const smallest = terrain.grid.slack / 2 ** mostHalvings + 1e-12
  const ways = new Map<string, readonly number[]>()
  for (const node of cut.unsure.get(patch) ?? []) {
    let isLeft = true
    for (const each of [eachNear, eachFar]) {
      const own: (readonly number[])[] = []
      const targets = surePatches(cut, node, each)
      // Each part of the cell may be left to another side.
      new Parts(cut, node).every((disc) => {
        const clear = targets.filter((to) => isClearInto(cut, disc, node, to, each))
        if (clear.length === 0 && disc.slack > smallest) return false
        own.push(clear)
        return true
      })
      isLeft = own.every((clear) => clear.length > 0)
      if (isLeft || each === eachFar) for (const clear of own) ways.set(clear.join(), clear)
      if (isLeft) break
    }
    // Of a spot that cannot be left nothing is known, whatever may be so of others.
    if (!isLeft) break
  }
  return [...ways.values()]
}

/** The sure patches around a node that are one border apart from it, at the most. */
function surePatches(cut: Cut, node: number, each: typeof eachNear): number[] {
  const { terrain, nodes, numbers, sureAt, patches } = cut
  const { signature } = patches[numbers[node]!]!
  const found = new Set<number>()
  const add = (to: number): void => {
    if (leavable(signature, patches[to]!.signature) !== undefined) found.add(to)
  }
  each(terrain.grid, nodes.cellOf[node]!, (next) => {
    if (sureAt[next]! >= 0) add(sureAt[next]!)
    else for (const { of } of spotsIn(cut, next)) if (patches[of]!.sure) add(of)
    return false
  })
  return [...found]
}

/** The spots of a cell that hold patches together, and the patches that one surely comes to from them. */
function spotsIn(
  { nodes, numbers, homes: { spots, fromSpot } }: Cut,
  cell: number,
): { readonly of: number; readonly spot: Point }[] {
  return (nodes.cells[cell] ?? []).flatMap((_, i) => {
    const spot = spots.get(nodes.first[cell]! + i)
    return spot ? [{ of: numbers[fromSpot.get(nodes.first[cell]! + i)!]!, spot }] : []
  })
}

/** The border between two signatures that somebody who leaves one for the other crosses; undefined where that cannot be told. */
function leavable(from: Signature, to: Signature): Border | null | undefined {
  const zones = [...only(from.zones, to.zones), ...only(to.zones, from.zones)]
  const left = only(from.bodies, to.bodies)
  if (only(to.bodies, from.bodies).length > 0 || zones.length + left.length > 1) return undefined
  if (zones[0] !== undefined) return { kind: 'zone', index: zones[0] }
  return left[0] === undefined ? null : { kind: 'body', index: left[0] }
}

function isClearInto(cut: Cut, disc: Disc, node: number, to: number, each: typeof eachNear): boolean {
  const { terrain, nodes, numbers, sureAt, depth, patches, signatures } = cut
  const crossed = leavable(patches[numbers[node]!]!.signature, patches[to]!.signature)
  const cell = nodes.cellOf[node]!
  const signature = signatures.all[nodes.signatureOf(node)]!
  const isClearTo = (end: Point): boolean => isClearWalk(terrain, disc, signature, end, crossed)
  const ends = endsNear(terrain.grid, cell, (next) => sureAt[next] === to, depth, each)
  if (ends.some((end) => isClearTo(middleOf(terrain.grid, end)))) return true
  // Where a patch is narrower than a cell, only spots of it are known.
  const spotTo = (next: number): Point | undefined => spotsIn(cut, next).find(({ of }) => of === to)?.spot
  const thin = endsNear(terrain.grid, cell, (next) => sureAt[next] !== to && spotTo(next) !== undefined, null, each)
  if (thin.some((next) => isClearTo(spotTo(next)!))) return true
  return each === eachFar && isClearByLane(cut, disc, node, to, crossed ?? null)
}

/** So many cells are tried as ends of a walk out of a lane. */
const mostEnds = 2

/**
 * Whether everybody in a disc can for certain walk out of a lane that is hardly wider than the character, and on to a sure patch: to a spot
 * just as far from one of its sides as somebody needs to be, first, where need be, to one such spot near by, to get round a corner.
 */
function isClearByLane(cut: Cut, disc: Disc, node: number, to: number, crossed: Border | null): boolean {
  const { terrain, nodes, sureAt, patches, signatures } = cut
  const { grid, layout, character } = terrain
  const from = signatures.all[nodes.signatureOf(node)]!
  const { signature } = patches[to]!
  const isSpot = (spot: Point, within: Signature): boolean =>
    canStand(layout, spot, character.radius) && isWithin(terrain, cellAt(grid, spot), spot, within)
  // Where it is a matter of centimetres, only small parts of the ground can tell.
  if (disc.slack > grid.slack / 2) return false
  const begins = (): Disc[] =>
    cornersOf(disc.middle, disc.slack).flatMap((corner) =>
      endsBeside(terrain, disc, corner, grid.size)
        .filter((spot) => isSpot(spot, from) && isClearWalk(terrain, disc, from, spot))
        .map((spot): Disc => ({ middle: spot, slack: 0 })),
    )
  const nearest = endsNear(grid, nodes.cellOf[node]!, (next) => sureAt[next] === to, null, eachFar)
  return nearest.slice(0, mostEnds).some((end) => {
    const middle = middleOf(grid, end)
    return endsBeside(terrain, disc, middle, 3 * grid.size).some(
      (spot) =>
        isSpot(spot, signature) &&
        isClearWalk(terrain, { middle: spot, slack: 0 }, signature, middle) &&
        (isClearWalk(terrain, disc, from, spot, crossed) ||
          begins().some((begin) => isClearWalk(terrain, begin, from, spot, crossed))),
    )
  })
}
