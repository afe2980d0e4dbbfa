import type { Expanded, Placed, PlacedCharacter } from '../interactables/index.ts'
import {
  alternatives,
  candidatesKey,
  type Fact,
  type Facts,
  factsKey,
  isPlain,
  mayAnswerSo,
  mostAlternatives,
  type Near,
  plainSignature,
  type Signature,
  signatureKey,
} from './alternatives.ts'
import { boxAround, boxOf } from './boxes.ts'
import { answeringSpot } from './closest.ts'
import type { Point } from './geometry.ts'
import { met } from './clear-walk.ts'
import { eachCell, type Grid, middleOf, standing } from './grid.ts'
import { type Layout, touching } from './layout.ts'
import { farthestReach, handlesOf, nearnessIn, type Sighting, sightingOf } from './reach.ts'
import type { Tri } from './sight.ts'
import { bodyWithin } from './squares.ts'
import { handsBreadth, inZone, onBody, zoneBox, zoneHolds } from './zone-shapes.ts'

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
  /** See `Terrain`. */
  readonly mets: Uint8Array
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
  const { slack } = grid
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
  const { stands, walls } = grid
  const cells = new Array<readonly number[] | null>(stands.length).fill(null)
  const mets = new Uint8Array(stands.length)
  for (let cell = 0; cell < cells.length; cell++) {
    if (cell % 16_384 === 0) yield
    if (stands[cell] !== standing.nowhere) cells[cell] = plain
    if (walls[cell]) mets[cell] = met.walls
  }
  let seen = 0
  for (const [cell, known] of facts) {
    if (++seen % 512 === 0) yield
    cells[cell] = numbersOf(known)
    const isSettled = known.zones.every(({ is }) => is === 'yes') && known.bodies.every(({ is }) => is === 'yes')
    if (!isSettled) mets[cell]! += met.borders
  }
  return { cells, facts, sightings, mets, tooCoarse }
}

/** The signature of one exact spot. */
export function signatureAt(expanded: Expanded, layout: Layout, character: PlacedCharacter, p: Point): Signature {
  return plainSignature(factsAt(expanded, layout, character, p))
}

/** What is so of a spot, or of all spots of a square round it, in a cell of which something is known already. */
export interface CloseLook {
  readonly layout: Layout
  readonly character: PlacedCharacter
  readonly facts: ReadonlyMap<number, Facts>
  readonly sightings: ReadonlyMap<number, Sighting>
}

/** Whether a signature is so of the spots of a square in a cell (`slack` metres from `p` to its corners): of all, of none, or perhaps of some. */
export function isSignature(look: CloseLook, cell: number, p: Point, slack: number, signature: Signature): Tri {
  const known = look.facts.get(cell) ?? { zones: noFacts, bodies: noFacts, near: noNear }
  const { candidates } = signature
  const isWanted = (index: number): boolean => candidates.some(({ interactable }) => interactable === index)
  if (!candidates.every(({ interactable }) => known.near.some((near) => near.interactable === interactable)))
    return 'no'
  const zones = compared(known.zones, signature.zones, (index) => zoneAt(look, index, p, slack))
  if (zones === 'no') return 'no'
  const bodies = compared(known.bodies, signature.bodies, (index) => bodyAt(look, index, p, slack))
  if (bodies === 'no') return 'no'
  const answering: Near[] = []
  for (const far of known.near) {
    const near = closerTo(look, far, p, slack)
    const wanted = isWanted(far.interactable)
    if (near ? near.answers === 'yes' && !wanted : wanted) return 'no'
    if (near) answering.push(near)
  }
  const within = zones === 'yes' && bodies === 'yes' ? 'yes' : 'maybe'
  if (isPlain({ zones: [], bodies: [], near: answering }, slack)) {
    return candidatesKey(plainSignature({ zones: [], bodies: [], near: answering }).candidates) ===
      candidatesKey(candidates)
      ? within
      : 'no'
  }
  return mayAnswerSo(answering, candidates, slack) ? 'maybe' : 'no'
}

/** Whether just the wanted things are so, of some that are or may be in the cell; what is undecided is looked at closer. */
function compared(facts: readonly Fact[], wanted: readonly number[], closer: (index: number) => Tri): Tri {
  if (!wanted.every((index) => facts.some((fact) => fact.index === index))) return 'no'
  let all: Tri = 'yes'
  for (const fact of facts) {
    const is = fact.is === 'yes' ? 'yes' : closer(fact.index)
    if (is === 'maybe') all = 'maybe'
    else if ((is === 'yes') !== wanted.includes(fact.index)) return 'no'
  }
  return all
}

/** Whether a spot of a cell is for certain within just the zones and the bodies of a signature. */
export function isWithin(
  look: CloseLook,
  cell: number,
  p: Point,
  signature: Pick<Signature, 'zones' | 'bodies'>,
): boolean {
  const { zones, bodies } = look.facts.get(cell) ?? { zones: noFacts, bodies: noFacts, near: noNear }
  return (
    compared(zones, signature.zones, (index) => zoneAt(look, index, p, 0)) === 'yes' &&
    compared(bodies, signature.bodies, (index) => bodyAt(look, index, p, 0)) === 'yes'
  )
}

function zoneAt({ layout, character }: CloseLook, index: number, p: Point, slack: number): Tri {
  return zoneHolds(layout.zones[index]!, p, character.radius, slack)
}

function bodyAt({ layout, character }: CloseLook, index: number, p: Point, slack: number): Tri {
  return isInWay(layout.figures[index]!.body!, p, character, slack)
}

/** How something that may be pressed in a cell stands to a part of it; null where it answers nowhere in that part. */
function closerTo({ character, sightings }: CloseLook, near: Near, p: Point, slack: number): Near | null {
  return nearTo(sightings.get(near.interactable)!, character, p, slack)
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
  for (const index of near.handles.near(boxAround(p, 0), farthestReach(character))) {
    const sighting = sightingOf(layout, expanded.interactables[index]!, character)
    const found = sighting && nearTo(sighting, character, p, 0)
    if (found && (found.lingers === 'no' || beginsAnywhere(layout, sighting.placed, character))) facts.near.push(found)
  }
  return facts
}

const begun = new WeakMap<PlacedCharacter, WeakMap<Placed, boolean>>()

/** Whether a character can come within a range at all: where it cannot, the range ends nowhere. */
function beginsAnywhere(layout: Layout, placed: Placed, character: PlacedCharacter): boolean {
  const known = begun.get(character) ?? new WeakMap<Placed, boolean>()
  begun.set(character, known)
  const before = known.get(placed)
  if (before !== undefined) return before
  const begins = answeringSpot(layout, placed, character) !== null
  known.set(placed, begins)
  return begins
}

/** How an interactable stands to the spots of a square; null where it answers at none of them. */
function nearTo(sighting: Sighting, character: PlacedCharacter, p: Point, slack: number): Near | null {
  const { staysOn, inRange, distance, hiders } = nearnessIn(sighting, character, p, slack)
  if (staysOn === 'no') return null
  const { index, priority, radius, until } = sighting.placed
  const [x, y] = sighting.points(p)!.handle
  // What ends where it begins lingers nowhere, however little is known of its border.
  const beyond = inRange === 'maybe' ? 'maybe' : inRange === 'no' ? 'yes' : 'no'
  const lingers = until > radius ? beyond : 'no'
  return { interactable: index, answers: staysOn, lingers, distance, handle: [x, y], hiders, priority }
}

/** Whether a character would be in the way of a body; touching it is not being in its way. */
function isInWay(body: readonly Point[], p: Point, { radius }: PlacedCharacter, slack: number): Tri {
  if (slack === 0) return onBody(body, p, radius) ? 'yes' : 'no'
  return bodyWithin(p, slack, body, radius - touching)
}

type Gathered = { -readonly [Kind in keyof Facts]: Facts[Kind] }

const noFacts: Fact[] = []
const noNear: Near[] = []

function* gatherFacts(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
): Generator<undefined, Pick<SignedCells, 'facts' | 'sightings'>> {
  const facts = new Map<number, Gathered>()
  const sightings = new Map<number, Sighting>()
  const at = (cell: number): Gathered => {
    const known = facts.get(cell)
    if (known) return known
    const made: Gathered = { zones: noFacts, bodies: noFacts, near: noNear }
    facts.set(cell, made)
    return made
  }
  // Of most cells only one kind of thing is known: empty lists are shared.
  const add = (cell: number, kind: 'zones' | 'bodies', fact: Fact): void => {
    const known = at(cell)
    if (known[kind] === noFacts) known[kind] = [fact]
    else known[kind].push(fact)
  }
  const addNear = (cell: number, near: Near): void => {
    const known = at(cell)
    if (known.near === noNear) known.near = [near]
    else known.near.push(near)
  }
  const stands = (cell: number): boolean => grid.stands[cell] !== standing.nowhere
  const around = grid.slack + grid.size
  for (const [index, zone] of layout.zones.entries()) {
    yield
    const margin = zone.kind === 'skin' ? character.radius + handsBreadth : 0
    const [whole, partly]: Fact[] = [
      { index, is: 'yes' },
      { index, is: 'maybe' },
    ]
    eachCell(grid, zoneBox(zone), margin + around, (cell) => {
      if (!stands(cell)) return
      const is = zoneHolds(zone, middleOf(grid, cell), character.radius, grid.slack)
      if (is !== 'no') add(cell, 'zones', is === 'yes' ? whole! : partly!)
    })
  }
  const skins = new Map(
    layout.zones.flatMap(({ kind }, zone) => (kind === 'skin' ? [[expanded.zones[zone]!.interactable, zone]] : [])),
  )
  for (const [index, { comesAndGoes, body }] of layout.figures.entries()) {
    if (!comesAndGoes || !body) continue
    yield
    const within = skins.get(index)
    const [whole, partly]: Fact[] = [
      { index, is: 'yes', within },
      { index, is: 'maybe', within },
    ]
    eachCell(grid, boxOf(body), character.radius + around, (cell) => {
      if (!stands(cell)) return
      const is = isInWay(body, middleOf(grid, cell), character, grid.slack)
      if (is !== 'no') add(cell, 'bodies', is === 'yes' ? whole! : partly!)
    })
  }
  for (const [index, figure] of layout.figures.entries()) {
    if (!figure.pressable || !figure.handle) continue
    yield
    const placed = expanded.interactables[index]!
    const sighting = sightingOf(layout, placed, character)
    if (!sighting) continue
    sightings.set(index, sighting)
    const found: [cell: number, near: Near][] = []
    let isCertain = false
    const looked = new Set<number>()
    for (const [x, y] of handlesOf(figure)) {
      eachCell(grid, boxAround([x, y], 0), farthestReach(character) + around, (cell) => {
        if (!stands(cell) || looked.has(cell)) return
        if (figure.elsewhere.size > 0) looked.add(cell)
        const near = nearTo(sighting, character, middleOf(grid, cell), grid.slack)
        if (!near) return
        found.push([cell, near])
        isCertain ||= near.answers === 'yes' && near.lingers === 'no' && grid.stands[cell] === standing.everywhere
      })
    }
    // Where no cell is certain, there may be no spot at all; that can be told exactly.
    if (!isCertain && found.length > 0 && !answeringSpot(layout, placed, character)) continue
    for (const [cell, near] of found) addNear(cell, near)
  }
  return { facts, sightings }
}
