import type { PlacedCharacter } from '../interactables/index.ts'
import {
  between,
  type Crossing,
  direction,
  distance,
  isStillInRange,
  type Leg,
  type Point,
  type Space,
  spotOn,
  surroundings,
  walkLeg,
} from '../space/index.ts'
import type { Stage } from './stage.ts'

/** Why a character stands still: it is where it was going, or something is in its way. */
export type Halt = 'arrived' | 'stopped'

/** Where a character is and goes, as plain values. */
export interface WalkerSave {
  readonly at: Point
  readonly facing: Point
  readonly leg: Leg | null
  readonly since: number
  readonly crossed: number
  readonly plan: readonly Point[]
  readonly zones: readonly number[]
  readonly bodies: readonly number[]
  readonly held: readonly number[]
}

/** A character on its feet: where it is, where it is going, and what it stands in. Times in whole ms of its play. */
export class Walker {
  /** The zones that it is in. */
  readonly zones: Set<number>
  /** The bodies that it would be in the way of. */
  readonly bodies: Set<number>
  readonly #space: Space
  readonly #person: PlacedCharacter
  #at: Point
  /** Which way it looks, seen from above; of any length. */
  facing: Point
  #leg: Leg | null = null
  /** When the leg began. */
  #since = 0
  /** How many crossings of the leg have happened. */
  #crossed = 0
  /** Corners still to walk to. */
  #plan: Point[] = []
  /** What ends farther off than it begins and had it in range when the leg began. */
  readonly #held: Set<number>

  constructor({ space, expanded }: Stage, character: number) {
    this.#space = space
    this.#person = expanded.characters[character]!
    this.#at = space.layout.starts[character]!
    this.facing = direction(this.#person.facing)
    const { zones, bodies } = surroundings(space, this.#person, this.#at)
    this.zones = new Set(zones)
    this.bodies = new Set(bodies)
    this.#held = new Set()
    this.#settleHeld(this.#at, this.#at)
  }

  save(): WalkerSave {
    return {
      at: this.#at,
      facing: this.facing,
      leg: this.#leg,
      since: this.#since,
      crossed: this.#crossed,
      plan: [...this.#plan],
      zones: [...this.zones],
      bodies: [...this.bodies],
      held: [...this.#held],
    }
  }

  restore({ at, facing, leg, since, crossed, plan, zones, bodies, held }: WalkerSave): void {
    this.#at = at
    this.facing = facing
    this.#leg = leg
    this.#since = since
    this.#crossed = crossed
    this.#plan = [...plan]
    this.zones.clear()
    for (const zone of zones) this.zones.add(zone)
    this.bodies.clear()
    for (const body of bodies) this.bodies.add(body)
    this.#held.clear()
    for (const one of held) this.#held.add(one)
  }

  get isWalking(): boolean {
    return this.#leg !== null
  }

  spotAt(now: number): Point {
    return this.#leg ? spotOn(this.#leg, now - this.#since, this.#person.speed) : this.#at
  }

  /** When it next crosses something, or comes to the end of a leg; `Infinity` while it stands. */
  get nextAt(): number {
    if (!this.#leg) return Infinity
    const crossing = this.#leg.crossings[this.#crossed]
    return this.#since + Math.min(crossing?.ms ?? Infinity, this.#leg.ms)
  }

  /** Whether it has come within the range of something that ends farther off than it begins, and has not left it since. */
  isHeldBy(interactable: number, now: number): boolean {
    const { layout, expanded } = this.#space
    const [placed, to] = [expanded.interactables[interactable]!, this.spotAt(now)]
    return isStillInRange(layout, placed, this.#person, this.#leg?.from ?? to, to, this.#held.has(interactable))
  }

  /** It is nowhere any more. */
  takeOff(): void {
    this.zones.clear()
    this.bodies.clear()
    this.#held.clear()
  }

  /** Stands still, at once. */
  stop(now: number): void {
    this.#stand(this.spotAt(now))
  }

  /** Stands just before a border that it was about to cross: a body is in its way. */
  standBefore({ share }: Crossing): void {
    const { from, to } = this.#leg!
    this.#stand(between(from, to, share))
  }

  /** Is put on a spot, at once, looking where it looked or (in degrees) elsewhere. */
  putOn(spot: Point, facing: number | null): void {
    this.#stand(spot)
    if (facing !== null) this.facing = direction(facing)
  }

  /** Sets out along corners, straight from each to the next. Why it stands still already; null where it walks. */
  follow(now: number, corners: readonly Point[]): Halt | null {
    this.#plan = [...corners]
    return this.#goOn(now)
  }

  /** The next crossing that is due by now, which thereby happens; null where none is. */
  nextCrossing(now: number): Crossing | null {
    const crossing = this.#leg?.crossings[this.#crossed]
    if (!crossing || this.#since + crossing.ms > now) return null
    this.#crossed++
    return crossing
  }

  /** Goes on to the next corner where the leg is at its end. Why it stands still then; null where it does not. */
  endLeg(now: number): Halt | null {
    if (!this.#leg || now < this.#since + this.#leg.ms) return null
    return this.#isHalted() ?? this.#goOn(now)
  }

  #goOn(now: number): Halt | null {
    for (let next = this.#plan.shift(); next; next = this.#plan.shift()) {
      const { radius, speed } = this.#person
      this.#leg = walkLeg(this.#space.layout, this.#at, next, radius, speed, this)
      if (distance(this.#at, next) > 0) this.facing = [next[0] - this.#at[0], next[1] - this.#at[1]]
      this.#since = now
      this.#crossed = 0
      if (this.#leg.ms > 0) return null
      const halt = this.#isHalted()
      if (halt) return halt
    }
    this.#stand(this.#at)
    return 'arrived'
  }

  /** Ends the leg; by a wall, or at its corner (null). */
  #isHalted(): Halt | null {
    const leg = this.#leg!
    if (leg.walled) {
      this.#stand(spotOn(leg, leg.ms, this.#person.speed))
      return 'stopped'
    }
    this.#settleHeld(leg.from, leg.to)
    this.#at = leg.to
    this.#leg = null
    return null
  }

  #settleHeld(from: Point, to: Point): void {
    const { layout, expanded } = this.#space
    for (const placed of expanded.interactables) {
      if (placed.until === placed.radius) continue
      const isHeld = isStillInRange(layout, placed, this.#person, from, to, this.#held.has(placed.index))
      if (isHeld) this.#held.add(placed.index)
      else this.#held.delete(placed.index)
    }
  }

  #stand(at: Point): void {
    this.#settleHeld(this.#leg?.from ?? at, at)
    this.#at = at
    this.#leg = null
    this.#plan = []
  }
}
