import {
  type Expanded,
  expandLevel,
  joinLevels,
  type PartOfProject,
  loadLevel,
  whyNotJoined,
} from '../../src/interactables/index.ts'
import type { Level } from '../../src/model/index.ts'
import { type Project, startsOf } from '../../src/play/index.ts'
import { randomLevel } from './levels.ts'
import { Random } from './random.ts'

/** A random small project, and its levels. */
export interface RandomProject {
  readonly project: Project
  readonly parts: readonly PartOfProject[]
}

/** The levels of a random project as one, with all its starts. */
export function joined({ project, parts }: RandomProject): Expanded {
  const starts = Object.entries(startsOf(project)).map(([name, start]) => ({ name, ...start }))
  return joinLevels(project.title, parts, starts)
}

/** Two or three random levels with one player, and others now and then who stay in theirs. The player goes from each to others by exits that ask for a press, or that one walks into. */
export function randomProject(seed: number): RandomProject {
  const made = projectWith(seed, true)
  return whyNotJoined(made.parts) === null ? made : projectWith(seed, false)
}

function projectWith(seed: number, hasOthers: boolean): RandomProject {
  const random = new Random(seed * 7919 + 1)
  const names = random.chance(0.7) ? ['one', 'two'] : ['one', 'two', 'three']
  const levels = names.map((_, i) => randomLevel(seed * 3 + i).level)
  const [person] = Object.values(levels[0]!.characters)
  const made = names.map((name, i): PartOfProject => {
    const { start } = Object.values(levels[i]!.characters)[0]!
    const elsewhere = names.filter((other) => other !== name)
    const exits = [...elsewhere, ...(random.chance(0.3) ? elsewhere : [])].map((level, number) => {
      const near = (): number => random.between(0.2, 1.6) * random.pick([-1, 1])
      const exit = {
        type: 'exit',
        at: [start[0] + near(), start[1] + near()] as [number, number],
        set: {
          'exit-to': {
            level,
            place: 'arrival',
            ...(random.chance(0.2) ? { drops: [random.pick(['key', 'coin'])] } : {}),
          },
          'taken-by': random.pick([['press'], ['press'], ['enter'], ['press', 'enter']]),
          ...(random.chance(0.2) ? { needs: { carries: 'key' } } : {}),
        },
        ...(random.chance(0.3) ? { range: { sight: false } } : {}),
      }
      return [`exit-${String(number)}`, exit] as const
    })
    const { carries = {}, ...own } = person!
    const level: Level = {
      ...levels[i]!,
      places: { ...levels[i]!.places, arrival: { at: start } },
      interactables: { ...levels[i]!.interactables, ...Object.fromEntries(exits) },
      characters: {
        someone: { ...without(own), start, ...(i === 0 ? { carries } : {}) },
        ...(random.chance(0.4) && hasOthers ? others(levels[i]!, random) : {}),
      },
    }
    const reading = loadLevel(level)
    if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics))
    const expanded = expandLevel(reading.value, reading.source)
    const except = expanded.interactables.flatMap((one) => (random.chance(0.3) ? [one.name] : []))
    const remembered = random.pick([
      {},
      { remembers: 'nothing' as const },
      { remembers: 'nothing' as const, except },
      { except },
    ])
    return { name, expanded, remembered }
  })
  const files = Object.fromEntries(
    made.map(({ name, remembered = {} }) => [
      name,
      { file: `${name}.level.yaml`, remembers: remembered.remembers, except: [...(remembered.except ?? [])] },
    ]),
  )
  const other = {
    level: random.pick(names),
    ...(random.chance(0.7) ? { place: 'arrival' } : {}),
  }
  const start = random.chance(0.4) ? { first: { level: names[0]! }, other } : names[0]!
  return { project: { project: 1, title: 'random', start, levels: files }, parts: made }
}

/** Those of a level who are no players, and a creature more. */
function others({ characters }: Level, random: Random): Level['characters'] {
  const own = Object.entries(characters).filter(([, { role }]) => role !== 'player')
  const [first] = Object.values(characters)
  const creature = { ...without(first!), role: 'creature' as const, carries: {} }
  return { ...Object.fromEntries(own), ...(own.length === 0 || random.chance(0.2) ? { beast: creature } : {}) }
}

function without(person: Level['characters'][string]): Level['characters'][string] {
  return Object.fromEntries(Object.entries(person).filter(([key]) => key !== 'carries-most')) as typeof person
}
