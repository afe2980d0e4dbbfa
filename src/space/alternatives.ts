import { distance, type Point } from './geometry.ts'
import type { Tri } from './sight.ts'

/** What is so at a spot: two spots with the same signature are alike. */
export interface Signature {
  /** The zones that it is in, ascending. */
  readonly zones: readonly number[]
  /** The interactables whose bodies it would be in the way of, ascending; only bodies that come and go. */
  readonly bodies: readonly number[]
  /** What a press can go to, first choice first. */
  readonly candidates: readonly Candidate[]
}

/** Something that a press can go to on a spot. */
export interface Candidate {
  readonly interactable: number
  /** The interactables whose bodies would hide it. */
  readonly hiders: readonly number[]
  /** It answers only whoever has come nearer before: there its range has ended for all others. */
  readonly lingers: boolean
}

/** What is so, or may be, in a cell. What is so nowhere in it is left out. */
export interface Facts {
  /** By index, ascending. */
  readonly zones: Fact[]
  /** By index, ascending. */
  readonly bodies: Fact[]
  readonly near: Near[]
}

/** Whether something is so in a cell: at all of its spots, or perhaps at some. */
export interface Fact {
  readonly index: number
  readonly is: Tri
  /** For a body: the zone round it that the character that is in its way is in, too; left out where there is none. */
  readonly within?: number | undefined
}

/** How something that can be pressed stands to the spots of a cell. */
export interface Near {
  readonly interactable: number
  /** Whether a press there can go to it. */
  readonly answers: Tri
  /** Whether only a press of somebody who has come nearer before can. */
  readonly lingers: Tri
  /** From the hand to the handle, in metres, for somebody in the middle of the cell. */
  readonly distance: number
  /** Where its handle is, seen from above. */
  readonly handle: Point
  readonly priority: number
  /** What comes and goes, and may hide it. */
  readonly hiders: readonly { readonly interactable: number; readonly hides: Tri }[]
}

/** More alternatives than this in one cell are not told apart, and the ground is called too coarse. */
export const mostAlternatives = 512

/** Whether nothing is undecided. */
export function isPlain({ zones, bodies, near }: Facts, slack: number): boolean {
  for (const { is } of zones) if (is === 'maybe') return false
  for (const { is } of bodies) if (is === 'maybe') return false
  for (const one of near) {
    if (one.answers === 'maybe' || one.lingers === 'maybe') return false
    if (one.hiders.some(({ hides }) => hides === 'maybe')) return false
    for (const other of near)
      if (other !== one && !surelyBefore(one, other, slack) && !surelyBefore(other, one, slack)) return false
  }
  return true
}

/** The one signature of spots for which nothing is undecided. */
export function plainSignature({ zones, bodies, near }: Facts): Signature {
  const order = near.length < 2 ? near : [...near].sort((a, b) => (surelyBefore(a, b, 0) ? -1 : 1))
  const hiders = (one: Near): number[] =>
    one.hiders.length === 0 ? none : one.hiders.map((hider) => hider.interactable)
  const candidates = order.map((one) => {
    return { interactable: one.interactable, hiders: hiders(one), lingers: one.lingers === 'yes' }
  })
  return { zones: zones.map(({ index }) => index), bodies: bodies.map(({ index }) => index), candidates }
}

const none: number[] = []

/** A text that facts share just where they allow the same signatures. */
export function factsKey({ zones, bodies, near }: Facts, slack: number): string {
  const factKey = ({ index, is }: Fact): string => `${String(index)}${is}`
  const nearKey = (one: Near): string => {
    const hiders = one.hiders.map(({ interactable, hides }) => `${String(interactable)}${hides}`)
    const before = near.flatMap((other, i) => (other !== one && surelyBefore(one, other, slack) ? [i] : []))
    return `${String(one.interactable)}${one.answers}${one.lingers}<${before.join()}>${hiders.join()}`
  }
  return `${zones.map(factKey).join()}|${bodies.map(factKey).join()}|${near.map(nearKey).join(' ')}`
}

/** Every signature that spots within `slack` metres of where these facts were measured may have. */
export function alternatives(facts: Facts, slack: number): Signature[] {
  const zones = subsets(facts.zones)
  const bodies = subsets(facts.bodies)
  const candidates = candidateOrders(facts.near, slack)
  const signatures: Signature[] = []
  const around = new Map(facts.bodies.map(({ index, within }) => [index, within]))
  // Nobody is in the way of a body without touching it, by more than rounding.
  const isPossible = (z: readonly number[], b: readonly number[]): boolean =>
    b.every((body) => {
      const zone = around.get(body)
      return zone === undefined || z.includes(zone)
    })
  for (const z of zones) {
    for (const b of bodies) {
      if (!isPossible(z, b)) continue
      for (const c of candidates) {
        signatures.push({ zones: z, bodies: b, candidates: c })
        if (signatures.length > mostAlternatives) return signatures
      }
    }
  }
  return signatures
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

function candidateOrders(near: readonly Near[], slack: number): Signature['candidates'][] {
  const present = subsets(near.map(({ answers }, index) => ({ index, is: answers })))
  const orders: Signature['candidates'][] = []
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

/**
 * Whether of two things the first comes first for everybody within `slack` metres of where their distances were measured: the one
 * with the higher priority, the nearer one in whole millimetres, the one that stands first in the file.
 *
 * The difference of the squares of two distances is linear in the spot, with a slope of twice the distance between the
 * handles: so two handles that are close together are told apart more finely than by how much each distance changes.
 */
function surelyBefore(one: Near, other: Near, slack: number): boolean {
  if (one.priority !== other.priority) return one.priority > other.priority
  if (slack === 0) {
    const [a, b] = [millimetres(one.distance), millimetres(other.distance)]
    return a === b ? one.interactable < other.interactable : a < b
  }
  // Whole millimetres never turn the order round; they may only make it equal.
  const needed = one.interactable < other.interactable ? rounding : 0.001 + rounding
  if (other.distance - one.distance - 2 * slack > needed) return true
  const apart = distance(one.handle, other.handle)
  const squares = (other.distance - one.distance) * (other.distance + one.distance) - 2 * slack * apart
  return squares > needed * (one.distance + other.distance + 2 * slack)
}

/** Metres by which a distance may be wrong as it was computed. */
const rounding = 1e-9

function millimetres(metres: number): number {
  return Math.round(metres * 1000)
}

function hiderChoices(order: readonly Near[]): Signature['candidates'][] {
  let choices: Signature['candidates'][] = [[]]
  for (const { interactable, hiders, lingers: may } of order) {
    const sets = subsets(hiders.map((hider) => ({ index: hider.interactable, is: hider.hides })))
    const own = [true, false]
      .filter((lingers) => may === 'maybe' || lingers === (may === 'yes'))
      .flatMap((lingers) => sets.map((set): Candidate => ({ interactable, hiders: set, lingers })))
    choices = choices.flatMap((before) => own.map((one) => [...before, one]))
    if (choices.length > mostAlternatives) break
  }
  return choices
}

/** A text that two signatures share just where they are alike. */
export function signatureKey({ zones, bodies, candidates }: Signature): string {
  return `${zones.join()}|${bodies.join()}|${candidatesKey(candidates)}`
}

export function candidatesKey(candidates: Signature['candidates']): string {
  return candidates
    .map(({ interactable, hiders, lingers }) => {
      const own = lingers ? `${String(interactable)}~` : interactable
      return hiders.length > 0 ? `${String(own)}:${hiders.join('.')}` : own
    })
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

/** Whether interactables may answer in this order, seen past just these: one of `candidateOrders`, without listing them. */
export function mayAnswerSo(near: readonly Near[], candidates: Signature['candidates'], slack: number): boolean {
  const order = candidates.map(({ interactable }) => near.find((one) => one.interactable === interactable)!)
  return candidates.every(({ hiders, lingers }, i) => {
    const own = order[i]!
    return (
      (own.lingers === 'maybe' || lingers === (own.lingers === 'yes')) &&
      mayBe(
        own.hiders.map(({ interactable, hides }) => ({ index: interactable, is: hides })),
        hiders,
      ) &&
      order.slice(i + 1).every((later) => !surelyBefore(later, own, slack))
    )
  })
}

/** Whether just these may be so. */
export function mayBe(facts: readonly Fact[], wanted: readonly number[]): boolean {
  return (
    facts.every(({ index, is }) => is === 'maybe' || wanted.includes(index)) &&
    wanted.every((index) => facts.some((fact) => fact.index === index))
  )
}
