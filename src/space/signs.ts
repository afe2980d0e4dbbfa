import type { Expanded, PlacedCharacter } from '../interactables/index.ts'
import { distance, inPolygon, type Point, toBorder, toPolygon } from './geometry.ts'
import { boxOf, eachCell, type Grid, middleOf, standing } from './grid.ts'
import type { Layout, Shape } from './layout.ts'
import { handsBreadth } from './legs.ts'
import { nearness, type Tri, within } from './reach.ts'

/** What is so at a spot: two spots with the same sign are alike. */
export interface Sign {
  /** The zones that it is in, ascending. */
  readonly zones: readonly number[]
  /** The interactables whose bodies it would be in the way of, ascending; only bodies that come and go. */
  readonly bodies: readonly number[]
  /** What a press can go to, first choice first, and whose bodies would hide it. */
  readonly candidates: readonly { readonly interactable: number; readonly hiders: readonly number[] }[]
}

/** What is undecided in a cell. */
interface Facts {
  readonly zones: Record<number, Tri>
  readonly bodies: Record<number, Tri>
  readonly near: Near[]
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

/** For each cell where one can stand, the numbers of all signs that its spots may have; null for the rest. */
export function* signCells(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
  signs: Signs,
): Generator<undefined, { readonly cells: (readonly number[] | null)[]; readonly tooCoarse: boolean }> {
  const facts = yield* gatherFacts(expanded, layout, character, grid)
  const plain = [signs.number({ zones: [], bodies: [], candidates: [] })]
  let tooCoarse = false
  const numbersOf = (known: Facts): number[] => {
    if (isPlain(known, 2 * grid.slack)) return [signs.number(plainSign(known))]
    const found = alternatives(known, 2 * grid.slack)
    if (found.length > mostAlternatives) tooCoarse = true
    return [...new Set(found.slice(0, mostAlternatives).map((sign) => signs.number(sign)))]
  }
  const cells: (readonly number[] | null)[] = []
  for (const [cell, stands] of grid.stands.entries()) {
    const known = facts.get(cell)
    cells.push(stands === standing.nowhere ? null : known ? numbersOf(known) : plain)
    if (cell % 512 === 0) yield
  }
  return { cells, tooCoarse }
}

/** The sign of one exact spot. */
export function signAt(expanded: Expanded, layout: Layout, character: PlacedCharacter, p: Point): Sign {
  return plainSign(factsAt(expanded, layout, character, p, 0))
}

/** The sign of all spots within a slack (metres) of one; null where they differ. */
export function signWithin(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  p: Point,
  slack: number,
): Sign | null {
  const facts = factsAt(expanded, layout, character, p, slack)
  return isPlain(facts, 2 * slack) ? plainSign(facts) : null
}

function factsAt(expanded: Expanded, layout: Layout, character: PlacedCharacter, p: Point, slack: number): Facts {
  const facts: Facts = { zones: {}, bodies: {}, near: [] }
  for (const [index, zone] of layout.zones.entries()) {
    const inside = zoneHolds(zone, p, character, slack)
    if (inside !== 'no') facts.zones[index] = inside
  }
  for (const [index, figure] of layout.figures.entries()) {
    if (!figure.comesAndGoes || !figure.body) continue
    const inWay = isInWay(figure.body, p, character, slack)
    if (inWay !== 'no') facts.bodies[index] = inWay
  }
  for (const placed of expanded.interactables) {
    const figure = layout.figures[placed.index]!
    if (figure.everywhere) facts.near.push(fromEverywhere(placed.index))
    else if (figure.pressable) {
      const near = nearness(layout, placed, character, p, slack)
      if (near && near.answers !== 'no') {
        facts.near.push({ ...near, interactable: placed.index, priority: placed.priority })
      }
    }
  }
  return facts
}

function zoneHolds(zone: Shape, p: Point, { girth }: PlacedCharacter, slack: number): Tri {
  if (zone.kind === 'skin') return within(toPolygon(p, zone.body), girth / 2 + handsBreadth - 1e-6, slack)
  if (zone.kind === 'circle') return within(distance(p, zone.at), zone.radius, slack)
  if (slack > 0 && toBorder(p, zone.outline) <= slack) return 'maybe'
  return inPolygon(p, zone.outline) ? 'yes' : 'no'
}

/** Whether a character would be in the way of a body; touching it is not being in its way. */
function isInWay(body: readonly Point[], p: Point, character: PlacedCharacter, slack: number): Tri {
  return within(toPolygon(p, body), character.girth / 2 - 1e-6, slack)
}

function* gatherFacts(
  expanded: Expanded,
  layout: Layout,
  character: PlacedCharacter,
  grid: Grid,
): Generator<undefined, Map<number, Facts>> {
  const facts = new Map<number, Facts>()
  const at = (cell: number): Facts => {
    const known = facts.get(cell) ?? { zones: {}, bodies: {}, near: [] }
    facts.set(cell, known)
    return known
  }
  const stands = (cell: number): boolean => grid.stands[cell] !== standing.nowhere
  for (const [index, zone] of layout.zones.entries()) {
    yield
    const box =
      zone.kind === 'circle'
        ? boxOf([
            [zone.at[0] - zone.radius, zone.at[1] - zone.radius],
            [zone.at[0] + zone.radius, zone.at[1] + zone.radius],
          ])
        : boxOf(zone.kind === 'skin' ? zone.body : zone.outline)
    const margin = zone.kind === 'skin' ? character.girth / 2 + handsBreadth : 0
    eachCell(grid, box, margin + grid.slack + grid.size, (cell) => {
      if (!stands(cell)) return
      const inside = zoneHolds(zone, middleOf(grid, cell), character, grid.slack)
      if (inside !== 'no') at(cell).zones[index] = inside
    })
  }
  for (const [index, figure] of layout.figures.entries()) {
    if (!figure.comesAndGoes || !figure.body) continue
    const { body } = figure
    yield
    eachCell(grid, boxOf(body), character.girth / 2 + grid.slack + grid.size, (cell) => {
      if (!stands(cell)) return
      const inWay = isInWay(body, middleOf(grid, cell), character, grid.slack)
      if (inWay !== 'no') at(cell).bodies[index] = inWay
    })
  }
  for (const placed of expanded.interactables) {
    const figure = layout.figures[placed.index]!
    yield
    if (figure.everywhere) {
      for (let cell = 0; cell < grid.stands.length; cell++)
        if (stands(cell)) at(cell).near.push(fromEverywhere(placed.index))
      continue
    }
    if (!figure.pressable || !figure.handle) continue
    const handle: readonly [number, number] = [figure.handle[0], figure.handle[1]]
    eachCell(grid, { from: handle, to: handle }, character.reach + grid.slack + grid.size, (cell) => {
      if (!stands(cell)) return
      const near = nearness(layout, placed, character, middleOf(grid, cell), grid.slack)
      if (!near || near.answers === 'no') return
      at(cell).near.push({ ...near, interactable: placed.index, priority: placed.priority })
    })
  }
  return facts
}

function fromEverywhere(interactable: number): Near {
  return { interactable, answers: 'yes', distance: 1e6 + interactable, priority: -1000, hiders: [] }
}

/** Whether nothing is undecided. */
function isPlain({ zones, bodies, near }: Facts, slack: number): boolean {
  for (const index in zones) if (zones[index] === 'maybe') return false
  for (const index in bodies) if (bodies[index] === 'maybe') return false
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
  return { zones: Object.keys(zones).map(Number), bodies: Object.keys(bodies).map(Number), candidates }
}

const none: number[] = []

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
function subsets(facts: Readonly<Record<number, Tri>>): number[][] {
  let sets: number[][] = [[]]
  for (const [index, is] of Object.entries(facts)) {
    const withIt = sets.map((set) => [...set, Number(index)])
    sets = is === 'yes' ? withIt : [...sets, ...withIt]
    if (sets.length > mostAlternatives) break
  }
  return sets
}

function candidateOrders(near: readonly Near[], slack: number): Sign['candidates'][] {
  const present = subsets(Object.fromEntries(near.map((one, i) => [i, one.answers])))
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
    const sets = subsets(Object.fromEntries(hiders.map((hider) => [hider.interactable, hider.hides])))
    choices = choices.flatMap((before) => sets.map((set) => [...before, { interactable, hiders: set }]))
    if (choices.length > mostAlternatives) break
  }
  return choices
}

/** A text that two signs share just where they are alike. */
export function signKey(sign: Sign): string {
  const candidates = sign.candidates.map((c) =>
    c.hiders.length ? `${String(c.interactable)}:${c.hiders.join('.')}` : c.interactable,
  )
  return `${sign.zones.join()}|${sign.bodies.join()}|${candidates.join()}`
}
