import type { Moved, Pushed, Standing } from '../machine/index.ts'
import { type Point, pushedTo, surroundings } from '../space/index.ts'
import type { Stage } from './stage.ts'
import { Walker } from './walker.ts'

/** Everybody in a play on their feet: who stands where, who is in whose way, and how they are moved by others. */
export class People implements Standing {
  /** By the index of the character. */
  readonly walkers: readonly Walker[]
  /** Whether whoever leaves for another level is gone from here. */
  leavesForGood = false
  /** Whether somebody has left: nobody is moved here any more, but for those who go back to where they start. */
  #isLeft = false
  readonly #stage: Stage
  readonly #now: () => number
  /** The interactables whose bodies block walking now. */
  readonly #blocking: () => readonly number[]

  constructor(stage: Stage, now: () => number, blocking: () => readonly number[]) {
    this.#stage = stage
    this.#now = now
    this.#blocking = blocking
    this.walkers = stage.expanded.characters.map((_, character) => new Walker(stage, character))
  }

  isInTheWay(machine: number): boolean {
    return this.walkers.some((walker) => walker.bodies.has(machine))
  }

  /** A character is nowhere yet: wherever it is put next, it comes into everything there. */
  takeOff(character: number): void {
    this.walkers[character]!.takeOff()
  }

  move(character: number, place: number): Moved | null {
    if (this.#isLeft) return null
    const { expanded, space } = this.#stage
    const { at: spot, facing } = expanded.places[place]!
    return space.landing(character, place) < 0 ? null : this.#putOn(character, spot, facing)
  }

  leave(character: number): Moved | null {
    if (!this.leavesForGood || this.#isLeft) return null
    this.#isLeft = true
    const walker = this.walkers[character]!
    const { zones, bodies } = walker
    const left = [...zones].sort((a, b) => a - b)
    const wasOn = [...bodies].sort((a, b) => a - b)
    // What it would have crossed at the same moment it does not come to any more.
    walker.stop(this.#now())
    this.takeOff(character)
    return { left, entered: [], cleared: wasOn.filter((body) => !this.isInTheWay(body)) }
  }

  goHome(character: number): Moved {
    const { expanded, space } = this.#stage
    return this.#putOn(character, space.layout.starts[character]!, expanded.characters[character]!.facing)
  }

  push(machine: number): Pushed[] | null {
    if (this.#isLeft) return null
    const { space } = this.#stage
    const blocking = this.#blocking()
    const inTheWay = this.walkers.flatMap((walker, who) => (walker.bodies.has(machine) ? [who] : []))
    const spots = inTheWay.map((who) => {
      return pushedTo(space, who, this.walkers[who]!.spotAt(this.#now()), machine, blocking)
    })
    // Where sampling finds no ground for a spot, Explore could not follow.
    if (spots.some((spot, i) => !spot || space.patches[inTheWay[i]!]!.patchAt(spot) < 0)) return null
    return inTheWay.map((actor, i) => ({ actor, ...this.#putOn(actor, spots[i]!, null) }))
  }

  /** Puts a character on a spot, at once; facing in degrees, or (null) as before. */
  #putOn(character: number, spot: Point, facing: number | null): Moved {
    const walker = this.walkers[character]!
    const { zones, bodies } = surroundings(this.#stage.space, this.#stage.expanded.characters[character]!, spot)
    const left = [...walker.zones].filter((zone) => !zones.includes(zone)).sort((a, b) => a - b)
    const entered = zones.filter((zone) => !walker.zones.has(zone)).sort((a, b) => a - b)
    const wasOn = [...walker.bodies].filter((body) => !bodies.includes(body)).sort((a, b) => a - b)
    if (walker.isWalking) walker.stop(this.#now())
    walker.putOn(spot, facing)
    for (const zone of left) walker.zones.delete(zone)
    for (const zone of entered) walker.zones.add(zone)
    walker.bodies.clear()
    for (const body of bodies) walker.bodies.add(body)
    return { left, entered, cleared: wasOn.filter((body) => !this.isInTheWay(body)) }
  }
}
