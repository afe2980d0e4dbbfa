import { expect, test } from '@jest/globals'
import { characterIn, inLevel, ownSpot } from '../../src/interactables/index.ts'
import { begunAt, Journey, makeStage, otherStarts, Play } from '../../src/play/index.ts'
import { joined as joinedLevels, randomProject } from './projects.ts'
import { Random } from './random.ts'

/** Projects to play; more with `npm run soak`. */
const wanted = Math.ceil(Number(process.env.ZINTEL_SOAK ?? 6000) / 600)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** Inputs of a play. */
const inputs = 100

/** Where a play of a project has come to, however it is played: all that is so in the level that one is in. */
interface Now {
  readonly level: string
  readonly spot: readonly string[]
  readonly states: readonly string[]
  readonly carried: readonly string[]
  readonly due: number | null
}

test(`levels that are joined are played as one after the other: ${String(wanted)} projects`, () => {
  const differences: string[] = []
  let [arrivals, played] = [0, 0]
  for (let number = seed; played < wanted && differences.length < 10; number++) {
    const made = randomProject(number)
    const { project, parts } = made
    const stages = Object.fromEntries(parts.map(({ name, expanded }) => [name, makeStage(expanded)]))
    const joined = makeStage(joinedLevels(made))
    // What chance draws hangs on how machines are counted; and who cannot arrive stays where it is, here or there.
    const isAlike = joined.expanded.pressKinds.every(({ chance }) => chance === null)
    if (!isAlike || joined.expanded.places.some((_, place) => joined.space.landing(0, place) < 0)) continue
    played++
    const random = new Random(number)
    const start = random.pick([null, ...otherStarts(joined)])
    const [journey, whole] = [
      new Journey(project, stages, start),
      new Play(start === null ? joined : begunAt(joined, start)),
    ]
    /** The characters of the level that one is in, by index here and there. */
    const people = (level: string): [number, number][] => {
      const part = joined.expanded.joined!.parts.find(({ name }) => name === level)!
      return part.expanded.characters.map((_, who) => [who, characterIn(part.expanded, part.first, who)])
    }
    const inWhole = (): Now => {
      const level = parts[joined.tables.clocksIn.length > 1 ? whole.registers()[joined.tables.at.here]! : 0]!.name
      const mark = inLevel(level, '')
      const own = joined.expanded.interactables.filter(({ name }) => name.startsWith(mark))
      return {
        level,
        spot: people(level).map(([, who]) => rounded(ownSpot(joined.expanded, whole.spotOf(who)))),
        states: own.map(({ index, name }) => `${name.slice(mark.length)} ${whole.stateOf(index)}`),
        carried: people(level).map(([, who]) => carriedBy(whole, who)),
        due: whole.nextDue(),
      }
    }
    const inJourney = (): Now => ({
      level: journey.level,
      spot: people(journey.level).map(([who]) => rounded(journey.play.spotOf(who))),
      states: journey.play.stage.expanded.interactables.map(
        ({ name, index }) => `${name} ${journey.play.stateOf(index)}`,
      ),
      carried: people(journey.level).map(([who]) => carriedBy(journey.play, who)),
      due: journey.play.nextDue(),
    })
    for (let i = 0; i < inputs && whole.ended === null && journey.play.ended === null; i++) {
      // The player most of the time; else somebody who stays in the level.
      const acting = random.pick([[0, 0] as const, ...people(journey.level)])
      const said = input(random, acting, journey, whole, () => {
        while (journey.follow());
      })
      const [one, other] = [inJourney(), inWhole()]
      if (JSON.stringify(one) === JSON.stringify(other)) continue
      differences.push(
        `project ${String(number)}, input ${String(i)}, ${said}: ${JSON.stringify(one)} ${JSON.stringify(other)}`,
      )
      break
    }
    arrivals += whole.log.filter(({ what }) => what === 'leaves').length
  }
  expect(differences).toEqual([])
  expect(arrivals).toBeGreaterThan(2)
}, 36_000_000)

function carriedBy(play: Play, who: number): string {
  const { items } = play.stage.expanded
  return items
    .map(({ name }, item) => `${name} ${String(play.carried(who, item))}`)
    .sort()
    .join()
}

function rounded(spot: readonly number[]): string {
  return spot.map((part) => part.toFixed(6)).join()
}

/** Does the same in both, and says what. */
function input(
  random: Random,
  [own, there]: readonly [number, number],
  journey: Journey,
  whole: Play,
  follow: () => void,
): string {
  const { expanded } = journey.play.stage
  const by = whole.spotOf(there)[0] - journey.play.spotOf(own)[0]
  const choice = random.below(10)
  const both = (does: (play: Play, who: number, moved: number) => void): void => {
    does(journey.play, own, 0)
    follow()
    does(whole, there, by)
  }
  if (choice < 3) {
    const [x, y] = journey.play.spotOf(own)
    const to: [number, number] = [x + random.between(-2, 2), y + random.between(-2, 2)]
    both((play, who, moved) => {
      play.walk(who, [[to[0] + moved, to[1]]])
    })
  } else if (choice < 6) {
    const exits = expanded.interactables.filter(({ type }) => type === 'exit')
    const { index } = random.chance(0.5) ? random.pick(exits) : random.pick(expanded.interactables)
    const { handle } = journey.play.stage.space.layout.figures[index]!
    if (handle) {
      both((play, who, moved) => {
        play.walk(who, [[handle[0] + moved, handle[1]]])
      })
    }
  } else if (choice < 9) {
    both((play, who) => {
      play.press(who)
    })
  }
  const ms = random.pick([0, 1, 7, 50, 100, 300, 1000, 3000])
  journey.advance(ms)
  whole.advance(ms)
  return `${String(own)}: ${String(choice)} and ${String(ms)} ms`
}
