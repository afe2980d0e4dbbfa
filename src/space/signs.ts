import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import { boxAround, boxOf } from './boxes.ts'
import { answeringSpot } from './closest.ts'
import { distance, inPolygon, type Point, toBorder, toPolygon } from './geometry.ts'
import { eachCell, type Grid, middleOf, standing } from './grid.ts'
import { type Layout, type Shape, touching, zoneBox } from './layout.ts'
import { handsBreadth, inZone, onBody } from './legs.ts'
import { nearnessIn, type Sighting, sightingOf, within } from './reach.ts'
import type { Tri } from './sight.ts'

/** What is so at a spot: two spots with the same sign are alike. */
export interface Sign {
  /** The zones that it is in, ascending. */
  readonly zones: readonly number[]
  /** The interactables whose bodies it would be in the way of, ascending; only bodies that come and go. */
  readonly bodies: readonly number[]
  /** What a press can go to, first choice first, and whose bodies would hide it. */
  readonly candidates: readonly { readonly interactable: number; readonly hiders: readonly number[] }[]
}

/** What is so, or may be, in a cell. What is so nowhere in it is left out. */
export interface Facts {
  /** By index, ascending. */
  readonly zones: Fact[]
  /** By index, ascending. */
  readonly bodies: Fact[]
  readonly near: Near[]
}

interface Fact {
  readonly index: number
  readonly is: Tri
}

interface Near {
  readonly interactable: number
  readonly answers: Tri
  readonly distance: number
  readonly priority: number
  readonly hiders: readonly { readonly interactable: number; readonly hides: Tri }[]
}

/** Signs by number, each once. */
export class Signs {
  readonly all: Sign[] = []
  readonly #byKey = new Map<string, number>()

  number(sign: Sign): number {
    const key = signKey(sign)
    const known = this.#byKey.get(key)
    if (known !== undefined) return known
    this.#byKey.set(key, this.all.length)
    return this.all.push(sign) - 1
  }

  find(sign: Sign): number {
    return this.#byKey.get(signKey(sign)) ?? -1
  }
}

/** More alternatives than this in one cell are not told apart, and the ground is called too coarse. */
const mostAlternatives = 512

/** What all spots of the cells of a grid may be like. */
export interface SignedCells {
  /** For each cell where one can stand, the numbers of all signs that its spots may have; null for the rest. */
  readonly cells: readonly (readonly number[] | null)[]
  /** What is so, or may be, in cells where anything is. */
  readonly facts: ReadonlyMap<number, Facts>
  /** For what can be pressed, by index, what it is seen past. */
  readonly sightings: ReadonlyMap<number, Sighting>
  /** For each cell whether it is undecided in it which zones or bodies its spots are in: 1, or 0. */
  readonly unsettled: Uint8Array
  readonly tooCoarse: boolean
}

/** Finds all signs that the spots of each cell may have. */
export function* signCells(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
  signs: Signs,
): Generator<undefined, SignedCells> {
  const { facts, sightings } = yield* gatherFacts(expanded, layout, character, grid)
  const plain = [signs.number({ zones: [], bodies: [], candidates: [] })]
  let tooCoarse = false
  const slack = 2 * grid.slack
  // Most cells are like others near by.
  const alike = new Map<string, readonly number[]>()
  const numbersOf = (known: Facts): readonly number[] => {
    if (isPlain(known, slack)) return [signs.number(plainSign(known))]
    const key = factsKey(known, slack)
    const before = alike.get(key)
    if (before) return before
    const found = alternatives(known, slack)
    if (found.length > mostAlternatives) tooCoarse = true
    const numbers = [...new Set(found.slice(0, mostAlternatives).map((sign) => signs.number(sign)))]
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

/** The sign of one exact spot. */
export function signAt(expanded: Expanded, layout: Layout, character: PlacedCharacter, p: Point): Sign {
  return plainSign(factsAt(expanded, layout, character, p))
}

/** What is so of a spot, or of all spots within a slack of it, in a cell of which something is known already. */
export interface CloseLook {
  readonly layout: Layout
  readonly character: PlacedCharacter
  readonly facts: ReadonlyMap<number, Facts>
  readonly sightings: ReadonlyMap<number, Sighting>
}

/** Whether a sign is so of the spots of a cell within a slack (metres) of one: of all, of none, or perhaps of some. */
export function isSign(look: CloseLook, cell: number, p: Point, slack: number, sign: Sign): Tri {
  const facts = factsIn(look, cell, p, slack)
  const { zones, bodies, near } = facts
  if (!mayBe(zones, sign.zones) || !mayBe(bodies, sign.bodies)) return 'no'
  const answering = near.map(({ interactable, answers }) => ({ index: interactable, is: answers }))
  const candidates = sign.candidates.map(({ interactable }) => interactable)
  if (!mayBe(answering, candidates)) return 'no'
  if (isPlain(facts, 2 * slack)) {
    return candidatesKey(plainSign(facts).candidates) === candidatesKey(sign.candidates) ? 'yes' : 'no'
  }
  return mayAnswerSo(near, sign.candidates, 2 * slack) ? 'maybe' : 'no'
}

/** Whether interactables may answer in this order, seen past just these: one of `candidateOrders`, without listing them. */
function mayAnswerSo(near: readonly Near[], candidates: Sign['candidates'], slack: number): boolean {
  const order = candidates.map(({ interactable }) => near.find((one) => one.interactable === interactable)!)
  return candidates.every(({ hiders }, i) => {
    const own = order[i]!
    return (
      mayBe(
        own.hiders.map(({ interactable, hides }) => ({ index: interactable, is: hides })),
        hiders,
      ) && order.slice(i + 1).every((later) => !surelyBefore(later, own, slack))
    )
  })
}

/** Whether just these may be so. */
function mayBe(facts: readonly Fact[], wanted: readonly number[]): boolean {
  return (
    facts.every(({ index, is }) => is === 'maybe' || wanted.includes(index)) &&
    wanted.every((index) => facts.some((fact) => fact.index === index))
  )
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
  const { girth } = character
  const around = boxAround(p, girth / 2 + handsBreadth)
  const facts: Facts = { zones: [], bodies: [], near: [] }
  for (const index of near.zones.near(around, 0)) {
    if (inZone(layout.zones[index]!, p, girth)) facts.zones.push({ index, is: 'yes' })
  }
  for (const index of near.bodies.near(around, 0)) {
    if (onBody(layout.figures[index]!.body!, p, girth)) facts.bodies.push({ index, is: 'yes' })
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

function zoneHolds(zone: Shape, p: Point, { girth }: PlacedCharacter, slack: number): Tri {
  if (zone.kind === 'skin') return within(toPolygon(p, zone.body), girth / 2 + handsBreadth - touching, slack)
  if (zone.kind === 'circle') return within(distance(p, zone.at), zone.radius, slack)
  if (toBorder(p, zone.outline) <= slack) return 'maybe'
  return inPolygon(p, zone.outline) ? 'yes' : 'no'
}

/** Whether a character would be in the way of a body; touching it is not being in its way. */
function isInWay(body: readonly Point[], p: Point, { girth }: PlacedCharacter, slack: number): Tri {
  return within(toPolygon(p, body), girth / 2 - touching, slack)
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
    const margin = zone.kind === 'skin' ? character.girth / 2 + handsBreadth : 0
    eachCell(grid, zoneBox(zone), margin + around, (cell) => {
      if (!stands(cell)) return
      const is = zoneHolds(zone, middleOf(grid, cell), character, grid.slack)
      if (is !== 'no') at(cell).zones.push({ index, is })
    })
  }
  for (const [index, { comesAndGoes, body }] of layout.figures.entries()) {
    if (!comesAndGoes || !body) continue
    yield
    eachCell(grid, boxOf(body), character.girth / 2 + around, (cell) => {
      if (!stands(cell)) return
      const is = isInWay(body, middleOf(grid, cell), character, grid.slack)
      if (is !== 'no') at(cell).bodies.push({ index, is })
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

/** Whether nothing is undecided. */
function isPlain({ zones, bodies, near }: Facts, slack: number): boolean {
  for (const { is } of zones) if (is === 'maybe') return false
  for (const { is } of bodies) if (is === 'maybe') return false
  for (const one of near) {
    if (one.answers === 'maybe' || one.hiders.some(({ hides }) => hides === 'maybe')) return false
    for (const other of near)
      if (other !== one && !surelyBefore(one, other, slack) && !surelyBefore(other, one, slack)) return false
  }
  return true
}

/** The one sign of spots for which nothing is undecided. */
function plainSign({ zones, bodies, near }: Facts): Sign {
  const order = near.length < 2 ? near : [...near].sort((a, b) => (surelyBefore(a, b, 0) ? -1 : 1))
  const hiders = (one: Near): number[] =>
    one.hiders.length === 0 ? none : one.hiders.map((hider) => hider.interactable)
  const candidates = order.map((one) => ({ interactable: one.interactable, hiders: hiders(one) }))
  return { zones: zones.map(({ index }) => index), bodies: bodies.map(({ index }) => index), candidates }
}

const none: number[] = []

/** A text that facts share just where they allow the same signs. */
function factsKey({ zones, bodies, near }: Facts, slack: number): string {
  const factKey = ({ index, is }: Fact): string => `${String(index)}${is}`
  const nearKey = (one: Near): string => {
    const hiders = one.hiders.map(({ interactable, hides }) => `${String(interactable)}${hides}`)
    const before = near.flatMap((other, i) => (other !== one && surelyBefore(one, other, slack) ? [i] : []))
    return `${String(one.interactable)}${one.answers}<${before.join()}>${hiders.join()}`
  }
  return `${zones.map(factKey).join()}|${bodies.map(factKey).join()}|${near.map(nearKey).join(' ')}`
}

/** Every sign that spots with these facts may have; lengths closer than `slack` may be either way round. */
function alternatives(facts: Facts, slack: number): Sign[] {
  const zones = subsets(facts.zones)
  const bodies = subsets(facts.bodies)
  const candidates = candidateOrders(facts.near, slack)
  const signs: Sign[] = []
  for (const z of zones) {
    for (const b of bodies) {
      for (const c of candidates) {
        signs.push({ zones: z, bodies: b, candidates: c })
        if (signs.length > mostAlternatives) return signs
      }
    }
  }
  return signs
}

/** All sets with everything that is sure in them and some of what may be. */
function subsets(facts: readonly Fact[]): number[][] {
  let sets: number[][] = [[]]
  for (const { index, is } of facts) {
    const withIt = sets.map((set) => [...set, index])
    sets = is === 'yes' ? withIt : [...sets, ...withIt]
    if (sets.length > mostAlternatives) break
  }
  return sets
}

function candidateOrders(near: readonly Near[], slack: number): Sign['candidates'][] {
  const present = subsets(near.map(({ answers }, index) => ({ index, is: answers })))
  const orders: Sign['candidates'][] = []
  for (const set of present) {
    for (const order of ordersOf(
      set.map((i) => near[i]!),
      slack,
    )) {
      orders.push(...hiderChoices(order))
      if (orders.length > mostAlternatives) return orders
    }
  }
  return orders
}

/** All orders in which some interactables may answer: by priority, then distance in millimetres, then file order. */
function ordersOf(near: readonly Near[], slack: number): Near[][] {
  if (near.length === 0) return [[]]
  const orders: Near[][] = []
  for (const first of near) {
    const others = near.filter((one) => one !== first)
    if (others.some((other) => surelyBefore(other, first, slack))) continue
    for (const rest of ordersOf(others, slack)) {
      orders.push([first, ...rest])
      if (orders.length > mostAlternatives) return orders
    }
  }
  return orders
}

function surelyBefore(one: Near, other: Near, slack: number): boolean {
  if (one.priority !== other.priority) return one.priority > other.priority
  if (slack > 0) return one.distance + slack + 0.001 < other.distance
  const [a, b] = [millimetres(one.distance), millimetres(other.distance)]
  return a === b ? one.interactable < other.interactable : a < b
}

function millimetres(metres: number): number {
  return Math.round(metres * 1000)
}

function hiderChoices(order: readonly Near[]): Sign['candidates'][] {
  let choices: Sign['candidates'][] = [[]]
  for (const { interactable, hiders } of order) {
    const sets = subsets(hiders.map((hider) => ({ index: hider.interactable, is: hider.hides })))
    choices = choices.flatMap((before) => sets.map((set) => [...before, { interactable, hiders: set }]))
    if (choices.length > mostAlternatives) break
  }
  return choices
}

/** A text that two signs share just where they are alike. */
export function signKey({ zones, bodies, candidates }: Sign): string {
  return `${zones.join()}|${bodies.join()}|${candidatesKey(candidates)}`
}

function candidatesKey(candidates: Sign['candidates']): string {
  return candidates
    .map(({ interactable, hiders }) =>
      hiders.length > 0 ? `${String(interactable)}:${hiders.join('.')}` : interactable,
    )
    .join()
}

/** How many are in one of two lists only. */
export function differing(one: readonly number[], other: readonly number[]): number {
  return only(one, other).length + only(other, one).length
}

/** Those of one list that are not in another. */
export function only(one: readonly number[], other: readonly number[]): number[] {
  return one.filter((x) => !other.includes(x))
}
