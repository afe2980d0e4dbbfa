import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import {
  alternatives,
  candidatesKey,
  type Fact,
  type Facts,
  factsKey,
  isPlain,
  mayAnswerSo,
  mayBe,
  mostAlternatives,
  type Near,
  plainSignature,
  type Signature,
  signatureKey,
} from './alternatives.ts'
import { boxAround, boxOf } from './boxes.ts'
import { answeringSpot } from './closest.ts'
import { distance, inPolygon, type Point, toBorder, toPolygon } from './geometry.ts'
import { eachCell, type Grid, middleOf, standing } from './grid.ts'
import { type Layout, type Shape, touching, zoneBox } from './layout.ts'
import { handsBreadth, inZone, onBody } from './legs.ts'
import { nearnessIn, type Sighting, sightingOf, within } from './reach.ts'
import type { Tri } from './sight.ts'

/** Signatures by number, each once. */
export class Signatures {
  readonly all: Signature[] = []
  readonly #byKey = new Map<string, number>()

  number(signature: Signature): number {
    const key = signatureKey(signature)
    const known = this.#byKey.get(key)
    if (known !== undefined) return known
    this.#byKey.set(key, this.all.length)
    return this.all.push(signature) - 1
  }

  find(signature: Signature): number {
    return this.#byKey.get(signatureKey(signature)) ?? -1
  }
}

/** What all spots of the cells of a grid may be like. */
export interface SignedCells {
  /** For each cell where one can stand, the numbers of all signatures that its spots may have; null for the rest. */
  readonly cells: readonly (readonly number[] | null)[]
  /** What is so, or may be, in cells where anything is. */
  readonly facts: ReadonlyMap<number, Facts>
  /** For what can be pressed, by index, what it is seen past. */
  readonly sightings: ReadonlyMap<number, Sighting>
  /** For each cell whether it is undecided in it which zones or bodies its spots are in: 1, or 0. */
  readonly unsettled: Uint8Array
  readonly tooCoarse: boolean
}

/** Finds all signatures that the spots of each cell may have. */
export function* signatureCells(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
  signatures: Signatures,
): Generator<undefined, SignedCells> {
  const { facts, sightings } = yield* gatherFacts(expanded, layout, character, grid)
  const plain = [signatures.number({ zones: [], bodies: [], candidates: [] })]
  let tooCoarse = false
  const slack = 2 * grid.slack
  // Most cells are like others near by.
  const alike = new Map<string, readonly number[]>()
  const numbersOf = (known: Facts): readonly number[] => {
    if (isPlain(known, slack)) return [signatures.number(plainSignature(known))]
    const key = factsKey(known, slack)
    const before = alike.get(key)
    if (before) return before
    const found = alternatives(known, slack)
    if (found.length > mostAlternatives) tooCoarse = true
    const numbers = [...new Set(found.slice(0, mostAlternatives).map((signature) => signatures.number(signature)))]
    alike.set(key, numbers)
    return numbers
  }
  const cells: (readonly number[] | null)[] = []
  for (const [cell, stands] of grid.stands.entries()) {
    const known = facts.get(cell)
    cells.push(stands === standing.nowhere ? null : known ? numbersOf(known) : plain)
    if (cell % 512 === 0) yield
  }
  const unsettled = new Uint8Array(cells.length)
  let seen = 0
  for (const [cell, { zones, bodies }] of facts) {
    if (++seen % 16_384 === 0) yield
    if (zones.some(({ is }) => is === 'maybe') || bodies.some(({ is }) => is === 'maybe')) unsettled[cell] = 1
  }
  return { cells, facts, sightings, unsettled, tooCoarse }
}

/** The signature of one exact spot. */
export function signatureAt(expanded: Expanded, layout: Layout, character: PlacedCharacter, p: Point): Signature {
  return plainSignature(factsAt(expanded, layout, character, p))
}

/** What is so of a spot, or of all spots within a slack of it, in a cell of which something is known already. */
export interface CloseLook {
  readonly layout: Layout
  readonly character: PlacedCharacter
  readonly facts: ReadonlyMap<number, Facts>
  readonly sightings: ReadonlyMap<number, Sighting>
}

/** Whether a signature is so of the spots of a cell within a slack (metres) of one: of all, of none, or perhaps of some. */
export function isSignature(look: CloseLook, cell: number, p: Point, slack: number, signature: Signature): Tri {
  const facts = factsIn(look, cell, p, slack)
  const { zones, bodies, near } = facts
  if (!mayBe(zones, signature.zones) || !mayBe(bodies, signature.bodies)) return 'no'
  const answering = near.map(({ interactable, answers }) => ({ index: interactable, is: answers }))
  const candidates = signature.candidates.map(({ interactable }) => interactable)
  if (!mayBe(answering, candidates)) return 'no'
  if (isPlain(facts, 2 * slack)) {
    return candidatesKey(plainSignature(facts).candidates) === candidatesKey(signature.candidates) ? 'yes' : 'no'
  }
  return mayAnswerSo(near, signature.candidates, 2 * slack) ? 'maybe' : 'no'
}

/** Whether a spot of a cell is for certain within just the zones and the bodies of a signature. */
export function isWithin(
  look: CloseLook,
  cell: number,
  p: Point,
  signature: Pick<Signature, 'zones' | 'bodies'>,
): boolean {
  const { zones, bodies } = factsIn(look, cell, p, 0)
  const isJust = (facts: readonly Fact[], wanted: readonly number[]): boolean =>
    facts.length === wanted.length && facts.every(({ index, is }) => is === 'yes' && wanted.includes(index))
  return isJust(zones, signature.zones) && isJust(bodies, signature.bodies)
}

const nothing: Facts = { zones: [], bodies: [], near: [] }

/** Facts of a part of a cell: only what may be so in the cell may be so there. */
function factsIn({ layout, character, facts, sightings }: CloseLook, cell: number, p: Point, slack: number): Facts {
  const known = facts.get(cell) ?? nothing
  const closer = (all: readonly Fact[], look: (index: number) => Tri): Fact[] =>
    all.flatMap((fact): Fact[] => {
      if (fact.is === 'yes') return [fact]
      const is = look(fact.index)
      return is === 'no' ? [] : [{ index: fact.index, is }]
    })
  return {
    zones: closer(known.zones, (index) => zoneHolds(layout.zones[index]!, p, character, slack)),
    bodies: closer(known.bodies, (index) => isInWay(layout.figures[index]!.body!, p, character, slack)),
    near: known.near.flatMap((near) => {
      const sighting = sightings.get(near.interactable)
      return sighting ? (nearTo(sighting, character, p, slack) ?? []) : [near]
    }),
  }
}

function factsAt(expanded: Expanded, layout: Layout, character: PlacedCharacter, p: Point): Facts {
  const { near } = layout
  const { radius } = character
  const around = boxAround(p, radius + handsBreadth)
  const facts: Facts = { zones: [], bodies: [], near: [] }
  for (const index of near.zones.near(around, 0)) {
    if (inZone(layout.zones[index]!, p, radius)) facts.zones.push({ index, is: 'yes' })
  }
  for (const index of near.bodies.near(around, 0)) {
    if (onBody(layout.figures[index]!.body!, p, radius)) facts.bodies.push({ index, is: 'yes' })
  }
  for (const index of near.handles.near(boxAround(p, 0), character.reach)) {
    const sighting = sightingOf(layout, expanded.interactables[index]!, character)
    const found = sighting && nearTo(sighting, character, p, 0)
    if (found) facts.near.push(found)
  }
  for (const index of near.everywhere) facts.near.push(fromEverywhere(index))
  return facts
}

/** How an interactable stands to spots within a slack of one; null where it answers at none of them. */
function nearTo(sighting: Sighting, character: PlacedCharacter, p: Point, slack: number): Near | null {
  const { answers, distance, hiders } = nearnessIn(sighting, character, p, slack)
  if (answers === 'no') return null
  const { index, priority } = sighting.placed
  return { interactable: index, answers, distance, hiders, priority }
}

function zoneHolds(zone: Shape, p: Point, { radius }: PlacedCharacter, slack: number): Tri {
  if (zone.kind === 'skin') return within(toPolygon(p, zone.body), radius + handsBreadth - touching, slack)
  if (zone.kind === 'circle') return within(distance(p, zone.at), zone.radius, slack)
  if (toBorder(p, zone.outline) <= slack) return 'maybe'
  return inPolygon(p, zone.outline) ? 'yes' : 'no'
}

/** Whether a character would be in the way of a body; touching it is not being in its way. */
function isInWay(body: readonly Point[], p: Point, { radius }: PlacedCharacter, slack: number): Tri {
  return within(toPolygon(p, body), radius - touching, slack)
}

function* gatherFacts(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
): Generator<undefined, Pick<SignedCells, 'facts' | 'sightings'>> {
  const facts = new Map<number, Facts>()
  const sightings = new Map<number, Sighting>()
  const at = (cell: number): Facts => {
    const known = facts.get(cell)
    if (known) return known
    const made: Facts = { zones: [], bodies: [], near: [] }
    facts.set(cell, made)
    return made
  }
  const stands = (cell: number): boolean => grid.stands[cell] !== standing.nowhere
  const around = grid.slack + grid.size
  for (const [index, zone] of layout.zones.entries()) {
    yield
    const margin = zone.kind === 'skin' ? character.radius + handsBreadth : 0
    eachCell(grid, zoneBox(zone), margin + around, (cell) => {
      if (!stands(cell)) return
      const is = zoneHolds(zone, middleOf(grid, cell), character, grid.slack)
      if (is !== 'no') at(cell).zones.push({ index, is })
    })
  }
  const skins = new Map(
    layout.zones.flatMap(({ kind }, zone) => (kind === 'skin' ? [[expanded.zones[zone]!.interactable, zone]] : [])),
  )
  for (const [index, { comesAndGoes, body }] of layout.figures.entries()) {
    if (!comesAndGoes || !body) continue
    yield
    const own = skins.get(index)
    eachCell(grid, boxOf(body), character.radius + around, (cell) => {
      if (!stands(cell)) return
      const is = isInWay(body, middleOf(grid, cell), character, grid.slack)
      if (is !== 'no') at(cell).bodies.push({ index, is, within: own })
    })
  }
  for (const [index, { pressable, handle, everywhere }] of layout.figures.entries()) {
    if (everywhere || !pressable || !handle) continue
    yield
    const placed = expanded.interactables[index]!
    const sighting = sightingOf(layout, placed, character)
    if (!sighting) continue
    sightings.set(index, sighting)
    const found: [cell: number, near: Near][] = []
    let isCertain = false
    eachCell(grid, boxAround([handle[0], handle[1]], 0), character.reach + around, (cell) => {
      const near = stands(cell) ? nearTo(sighting, character, middleOf(grid, cell), grid.slack) : null
      if (!near) return
      found.push([cell, near])
      isCertain ||= near.answers === 'yes' && grid.stands[cell] === standing.everywhere
    })
    // Where no cell is certain, there may be no spot at all; that can be told exactly.
    if (!isCertain && found.length > 0 && !answeringSpot(layout, placed, character)) continue
    for (const [cell, near] of found) at(cell).near.push(near)
  }
  for (const index of layout.near.everywhere) {
    for (let cell = 0; cell < grid.stands.length; cell++) if (stands(cell)) at(cell).near.push(fromEverywhere(index))
  }
  return { facts, sightings }
}

function fromEverywhere(interactable: number): Near {
  return { interactable, answers: 'yes', distance: 1e6 + interactable, priority: -1000, hiders: [] }
}
