import type { Moved, Pushed, Standing, Tables } from '../machine/index.ts'
import type { Stage } from '../play/index.ts'
import { mergedGoHome } from './passive.ts'
import { type Hop, type Patches, type Point, pushedTo, type Signature, timedHop, wayToSpot } from '../space/index.ts'

/**
 * Where everybody stands in a sure move that is being tried: on the standing spots of their patches, but for one who is
 * on its way, and for those who were moved and have yet to walk to the standing spot there.
 */
export class SpotPositions implements Standing {
  /** The patch of the first character; those of the others are in the registers. */
  patch = 0
  /** The character that is on its way: nobody knows just where; -1: none. */
  walker = -1
  /** Whether something hung on where somebody is of whom that is not known. */
  isUnsure = false
  /** Who was moved to a spot, and has not gone to its standing spot yet. */
  readonly moved: { readonly actor: number; readonly spot: Point }[] = []
  /** For each character the bodies that it would be in the way of. */
  readonly bodies: readonly Set<number>[]
  /** For each character the zones that it is in. */
  readonly zones: readonly Set<number>[]
  readonly #stage: Stage
  readonly #states: Tables['states']
  /** The registers of the move that is being tried. */
  readonly #after: Int32Array
  readonly #grounds: readonly Patches[]
  readonly #actors: readonly number[]
  readonly #settlings = new Map<string, Hop | null>()
  /** Where pushes lead, and on which patch spots are: few, and asked for again and again. */
  readonly #pushes = new Map<string, Point | null>()
  readonly #patches = new Map<string, number>()

  /** `actors`: the characters that make moves; where on their patches the others stand, nobody knows. */
  constructor(stage: Stage, after: Int32Array, actors: readonly number[]) {
    this.#actors = actors
    this.#stage = stage
    this.#states = stage.tables.states
    this.#after = after
    this.#grounds = stage.space.patches
    this.bodies = stage.expanded.characters.map(() => new Set())
    this.zones = stage.expanded.characters.map(() => new Set())
  }

  /** A move is tried, with the first character on a patch; the registers are those before it. */
  begin(patch: number): void {
    this.patch = patch
    this.moved.length = 0
    this.isUnsure = false
    this.walker = -1
    for (const [character, { patches }] of this.#grounds.entries()) {
      this.standOn(character, patches[this.patchOf(character)]!.signature)
    }
  }

  /** Whether a character was moved in this move. */
  isMoved(character: number): boolean {
    return this.moved.some(({ actor }) => actor === character)
  }

  isInTheWay(machine: number): boolean {
    const { at } = this.#stage.tables
    return (
      this.bodies.some((bodies) => bodies.has(machine)) || (at.characters > 1 && this.#after[at.barred(machine)] === 1)
    )
  }

  /** Puts a character on a place; null where nobody can stand there. */
  move(actor: number, place: number): Moved | null {
    const { at } = this.#stage.expanded.places[place]!
    return this.#stage.space.landing(actor, place) < 0 ? null : this.#putOn(actor, at)
  }

  /** Only of those who make no moves: where on its patch one stands then is of no more account than before. */
  goHome(actor: number): Moved {
    const { tables, space } = this.#stage
    if (space.merged?.characters.has(actor)) {
      return mergedGoHome(tables, space.merged, this.#after, actor, (machine) => this.isInTheWay(machine))
    }
    const ground = this.#grounds[actor]!
    const from = this.patchOf(actor)
    const home = ground.patchAt(space.layout.starts[actor]!)
    const to = home < 0 ? from : home
    const [before, after] = [ground.patches[from]!.signature, ground.patches[to]!.signature]
    this.put(actor, to)
    this.standOn(actor, after)
    return {
      left: before.zones.filter((zone) => !after.zones.includes(zone)).sort((a, b) => a - b),
      entered: after.zones.filter((zone) => !before.zones.includes(zone)),
      cleared: before.bodies.filter((body) => !after.bodies.includes(body) && !this.isInTheWay(body)),
    }
  }

  /** Whoever leaves for a level that is not explored with this one counts as back at once. */
  leave(): null {
    return null
  }

  /** Pushes everybody out of the way of a body, as Play does from their standing spots. */
  push(machine: number): Pushed[] | null {
    const { figures } = this.#stage.space.layout
    const blocking = figures.flatMap((figure, i) =>
      figure.comesAndGoes && this.#states[i]![this.#after[i]!]!.blocksWalk ? [i] : [],
    )
    const inTheWay = this.bodies.flatMap((bodies, who) => (bodies.has(machine) ? [who] : []))
    const spots = inTheWay.map((who) => this.#pushedTo(who, machine, blocking))
    // A character that is on its way, or has been moved already, or makes no moves, need not be on its standing spot.
    const isOff = (who: number): boolean => who === this.walker || this.isMoved(who) || !this.#actors.includes(who)
    if (inTheWay.some(isOff)) this.isUnsure = true
    if (spots.some((spot, i) => spot === null || this.#patchAt(inTheWay[i]!, spot) < 0)) return null
    return inTheWay.map((actor, i) => ({ actor, ...this.#putOn(actor, spots[i]!) }))
  }

  /** Where a character is pushed from the standing spot of its patch; null where there is no room. */
  #pushedTo(who: number, machine: number, blocking: readonly number[]): Point | null {
    const patch = this.patchOf(who)
    const key = `${String(who)} ${String(patch)} ${String(machine)} ${blocking.join()}`
    const known = this.#pushes.get(key)
    if (known !== undefined) return known
    const spot = pushedTo(this.#stage.space, who, this.#grounds[who]!.patches[patch]!.spot, machine, blocking)
    this.#pushes.set(key, spot)
    return spot
  }

  /** The patch on which a spot is; -1: none. */
  #patchAt(who: number, spot: Point): number {
    const key = `${String(who)} ${spot.join(' ')}`
    let patch = this.#patches.get(key)
    if (patch === undefined) this.#patches.set(key, (patch = this.#grounds[who]!.patchAt(spot)))
    return patch
  }

  /** Puts a character on a spot, from which it has yet to walk to the standing spot of its patch. */
  #putOn(actor: number, spot: Point): Moved {
    const to = this.#patchAt(actor, spot)
    const { signature } = this.#grounds[actor]!.patches[to]!
    const [zones, bodies] = [this.zones[actor]!, this.bodies[actor]!]
    const left = [...zones].filter((zone) => !signature.zones.includes(zone)).sort((a, b) => a - b)
    const entered = signature.zones.filter((zone) => !zones.has(zone))
    const off = [...bodies].filter((body) => !signature.bodies.includes(body)).sort((a, b) => a - b)
    this.put(actor, to)
    this.standOn(actor, signature)
    // A character that is moved twice at once walks to the standing spot once.
    const before = this.moved.findIndex((one) => one.actor === actor)
    if (before >= 0) this.moved.splice(before, 1)
    this.moved.push({ actor, spot })
    return { left, entered, cleared: off.filter((body) => !this.isInTheWay(body)) }
  }

  /** The walk from a spot to the standing spot of its patch; null where there is none that is certain. */
  settling(actor: number, at: Point): Hop | null {
    const key = `${String(actor)} ${at.join(' ')}`
    const known = this.#settlings.get(key)
    if (known !== undefined) return known
    const { space, expanded } = this.#stage
    const { patches, patchAt } = this.#grounds[actor]!
    const patch = patchAt(at)
    const { spot } = patches[patch]!
    const way = wayToSpot(space, actor, at, spot, [])
    const hop = way ? timedHop(space.layout, expanded.characters[actor]!, at, way, patch) : null
    this.#settlings.set(key, hop)
    return hop
  }

  standOn(character: number, signature: Signature): void {
    const [zones, bodies] = [this.zones[character]!, this.bodies[character]!]
    zones.clear()
    bodies.clear()
    for (const zone of signature.zones) zones.add(zone)
    for (const body of signature.bodies) bodies.add(body)
  }

  patchOf(character: number): number {
    return character === 0 ? this.patch : this.#after[this.#stage.tables.at.place(character)]!
  }

  put(character: number, patch: number): void {
    if (character === 0) this.patch = patch
    else this.#after[this.#stage.tables.at.place(character)] = patch
  }
}
