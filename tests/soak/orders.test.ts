import { expect, test } from '@jest/globals'
import { isRuledOut } from '../../src/findings/rule.ts'
import { brokenKey, lateKey, watchTogether } from '../../src/findings/requirements/watched.ts'
import { expandLevel, inLevel, loadLevel } from '../../src/interactables/index.ts'
import { finish } from '../../src/model/index.ts'
import { begunAt, makeStage, otherStarts, Play } from '../../src/play/index.ts'
import { joined, randomProject } from './projects.ts'
import { Random } from './random.ts'

/** Projects to play; more with `npm run soak`. */
const wanted = Math.ceil(Number(process.env.ZINTEL_SOAK ?? 6000) / 1500)
const seed = Number(process.env.ZINTEL_SOAK_SEED ?? 1)

/** Plays of each project, and inputs of each play. */
const [plays, inputs] = [12, 120]

/** What is required of a level: that something is in no state before something else has been in one. */
interface Order {
  readonly key: string
  readonly level: number
  readonly never: readonly [interactable: number, state: number]
  readonly before: readonly [interactable: string, state: string]
}

test(`what is required of an order in levels that are joined, and was shown to hold, no play breaks: ${String(wanted)} projects`, () => {
  const seen = { found: 0, 'ruled-out': 0, undecided: 0, plays: 0, broken: 0 }
  const wrong: string[] = []
  for (let number = seed, played = 0; played < wanted && wrong.length < 5; number++) {
    const random = new Random(number * 31 + 5)
    const { project, parts } = randomProject(number)
    const orders: Omit<Order, 'key' | 'level'>[] = []
    const asked = parts.map((part) => {
      const { interactables } = part.expanded
      const ends = interactables.flatMap(({ index, name, states, initial }) =>
        states.flatMap((state, i) => (i === initial ? [] : [{ index, name, state: state.name, i }])),
      )
      if (ends.length < 2) return part
      const [never, before] = [random.pick(ends), random.pick(ends)]
      const reading = loadLevel({
        ...part.expanded.level,
        requirements: {
          order: {
            never: { interactable: never.name, is: never.state },
            before: { interactable: before.name, is: before.state },
          },
        },
      })
      orders.push({ never: [never.index, never.i], before: [inLevel(part.name, before.name), before.state] })
      return { ...part, expanded: expandLevel(reading.value!, reading.source) }
    })
    if (orders.length < parts.length) continue
    const stage = makeStage(joined({ project, parts: asked }))
    const watched = finish(watchTogether(stage, 60_000))
    if ([...watched.values()].some(({ evidence }) => evidence.gap !== null)) continue
    played++
    const all = orders.map((order, level): Order => ({ ...order, level, key: inLevel(parts[level]!.name, 'order') }))
    const answers = all.map(({ key }) => {
      const { evidence } = watched.get(key)!
      const keys = [brokenKey, lateKey].map((start) => `${start}order`)
      if (keys.some((one) => evidence.witnesses.get(one)?.shown)) return 'found'
      return keys.some((one) => evidence.witnesses.has(one)) || !isRuledOut(evidence, keys) ? 'undecided' : 'ruled-out'
    })
    for (const answer of answers) seen[answer]++
    const { tables, expanded } = stage
    for (let i = 0; i < plays; i++) {
      seen.plays++
      const start = random.pick([null, ...otherStarts(stage)])
      const play = new Play(start === null ? stage : begunAt(stage, start))
      const names = expanded.interactables.map(({ name }) => name)
      const isBroken = ({ level, never: [interactable, state], before: [name, to] }: Order): boolean => {
        const regs = play.registers()
        const { first } = expanded.joined!.parts[level]!
        const wasSo = play.log.some(
          (entry) => entry.what === 'transition' && entry.interactable === name && entry.to === to,
        )
        return regs[tables.at.here] === level && regs[interactable + first.interactables] === state && !wasSo
      }
      for (let input = 0; input < inputs && play.ended === null; input++) {
        const mind = random.below(10)
        const who = random.chance(0.8) ? 0 : random.below(expanded.characters.length)
        if (mind < 4) play.walkTo(who, random.pick(names))
        else if (mind < 7) play.press(who, random.below(expanded.pressKinds.length))
        play.advance(random.below(700))
        for (const [one, order] of all.entries()) {
          if (!isBroken(order)) continue
          seen.broken++
          if (answers[one] === 'ruled-out') wrong.push(`project ${String(number)}, play ${String(i)}: ${order.key}`)
        }
      }
    }
  }
  console.info(JSON.stringify(seen))
  expect(wrong).toEqual([])
  expect(Math.min(seen.found, seen.broken)).toBeGreaterThan(0)
}, 36_000_000)
