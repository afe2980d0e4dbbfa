import type { Stage } from '../../play/index.ts'
import { acrossReach, fromHand, fromReach, nearestStanding, nearness, type Patch } from '../../space/index.ts'
import { spotText } from '../shared/ground.ts'
import { whoMayAsk } from '../shared/who.ts'
import { ruledOut, type Asked, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface OutOfReachFacts {
  readonly interactable: string
  /** The spot that comes nearest to reaching it; null where nobody can stand anywhere, or it stands nowhere. */
  readonly nearest: {
    /** Where it is, in metres. */
    readonly at: readonly [number, number]
    /** Metres from the hand there to the handle, or to where the range is measured from; and the most that would do. */
    readonly distance: number
    readonly limit: number
    /** How far ahead of the hand the reach is measured from. */
    readonly offset: number
    readonly why:
      | 'too-near'
      | 'out-of-range'
      | 'out-of-reach'
      | 'at-another-height'
      | 'stands-elsewhere'
      | 'behind-a-wall'
      | 'too-narrow'
  } | null
}

/** An interactable that asks for a press, but no spot is in range, in reach and in sight of it. */
export const outOfReach: Rule<OutOfReachFacts> = {
  name: 'out-of-reach',
  severity: 'error',
  isByLevel: true,
  ask({ stage }) {
    const pressable = stage.expanded.interactables.filter(({ index }) => stage.space.layout.figures[index]!.pressable)
    const answering = stage.space.patches.map(({ patches }) => answeringOn(patches))
    return pressable.map(({ index }) => askOne(stage, index, answering))
  },
  says: outOfReachText,
  fix: outOfReachFix,
}

function askOne(stage: Stage, machine: number, answering: readonly ReadonlySet<number>[]): Asked<OutOfReachFacts> {
  const { name, path } = stage.expanded.interactables[machine]!
  // Patches name what is within reach of some spot in them just where there is such a spot.
  const own = whoMayAsk(stage, machine).filter((who) => answering[who]!.has(machine))
  if (own.some((who) => widest(stage, machine, who) >= narrowest)) return ruledOut(name)
  const nearest = nearestSpot(stage, machine)
  const facts: OutOfReachFacts = {
    interactable: name,
    nearest: own.length > 0 && nearest ? { ...nearest, why: 'too-narrow' } : nearest,
  }
  return found(name, { path: `${path}.at`, facts, steps: [], grant: { grant: 'reach', machine } })
}

/** Metres on the ground: nobody finds a spot to press from that is narrower. */
const narrowest = 0.01

/** How far from below its handle, and from what its range is measured from, a character may stand at the most; metres on the ground. */
function widest({ expanded, space }: Stage, machine: number, who: number): number {
  const { handle, rangeFrom } = space.layout.figures[machine]!
  const character = expanded.characters[who]!
  if (!handle || !rangeFrom) return Infinity
  const { radius } = expanded.interactables[machine]!
  const range = Math.sqrt(Math.max(0, radius ** 2 - (rangeFrom[2] - character.hand) ** 2))
  const { least, most } = acrossReach(character, handle[2]) ?? { least: 0, most: 0 }
  // A range that is measured from the handle is a circle round the ring.
  const isRound = handle[0] === rangeFrom[0] && handle[1] === rangeFrom[1]
  return Math.min(most - least, isRound ? range - least : range)
}

/** What is within reach on some of these patches. */
function answeringOn(patches: readonly Patch[]): Set<number> {
  return new Set(patches.flatMap(({ signature }) => signature.candidates.map(({ interactable }) => interactable)))
}

/** The spot nearest to the handle, and why it does not answer there. */
function nearestSpot({ space, expanded }: Stage, machine: number): OutOfReachFacts['nearest'] {
  const placed = expanded.interactables[machine]!
  const person = expanded.characters[whoMayAsk({ expanded }, machine)[0]!]!
  const { handle, rangeFrom } = space.layout.figures[machine]!
  const at = handle && nearestStanding(space.layout, [handle[0], handle[1]], person.radius)
  const found = at && nearness(space.layout, placed, person, at)
  if (!found || !rangeFrom || !handle) return null
  const why = found.why ?? 'behind-a-wall'
  const offset = person.reachOffset
  const [near, least] = [Math.hypot(handle[0] - at[0], handle[1] - at[1]), acrossReach(person, handle[2])?.least ?? 0]
  if (found.why === 'out-of-reach' && near < least) return { at, distance: near, limit: least, offset, why: 'too-near' }
  return why === 'out-of-range'
    ? { at, distance: fromHand(at, person.hand, rangeFrom), limit: placed.radius, offset, why }
    : { at, distance: fromReach(at, person, handle), limit: person.reach, offset, why }
}

function outOfReachText(facts: OutOfReachFacts): string {
  const start = `Nobody can press ${facts.interactable}`
  const { nearest } = facts
  if (!nearest) return `${start}: it stands nowhere that a character could come near.`
  const spot = `at the nearest spot, ${spotText(nearest.at)},`
  // So many digits that what is missing can be seen.
  const missing = Math.abs(nearest.distance - nearest.limit)
  const digits = missing >= 0.01 ? 2 : missing >= 0.001 ? 3 : 4
  const metres = (length: number): string => `${length.toFixed(digits)} m`
  const misses = metres(missing)
  const from = nearest.offset === 0 ? 'the hand' : `a point ${String(nearest.offset)} m ahead of the hand`
  switch (nearest.why) {
    case 'too-near':
      return `${start}: ${spot} its handle is ${metres(nearest.distance)} off, and the hand, which reaches from ahead, reaches nothing nearer than ${metres(nearest.limit)}; farther off, its range ends.`
    case 'behind-a-wall':
      return `${start}: ${spot} a wall is in between.`
    case 'at-another-height':
      return `${start}: ${spot} the hand of a player is not at a height that its range wants (heights).`
    case 'stands-elsewhere':
      return `${start}: ${spot} a player does not stand where its range wants one (stands-in).`
    case 'too-narrow':
      return `${start} but from one spot, to the millimetre: there its range, or the reach of the hand, just about ends.`
    case 'out-of-range':
      return `${start}: ${spot} it is ${metres(nearest.distance)} away, and its range ends at ${metres(nearest.limit)}. ${misses} are missing.`
    case 'out-of-reach':
      return `${start}: ${spot} its handle is ${metres(nearest.distance)} from ${from}, which reaches ${metres(nearest.limit)}. ${misses} are missing.`
  }
}

function outOfReachFix({ nearest }: OutOfReachFacts): string {
  if (!nearest) return 'Give it a place.'
  if (nearest.why === 'behind-a-wall') return 'Move it out of the wall.'
  if (nearest.why === 'at-another-height') return 'Let its heights take in the hand of a player.'
  if (nearest.why === 'stands-elsewhere') return 'Turn it, move it, or let stands-in take in where one can stand.'
  if (nearest.why === 'too-near') return 'Widen its range, or let the hand reach from less far ahead (reach-offset).'
  if (nearest.why === 'too-narrow') return 'Widen its range, or move it nearer to the height of the hand.'
  if (nearest.why === 'out-of-range') return 'Move it, or widen its range.'
  return 'Move it nearer to where one can stand.'
}
