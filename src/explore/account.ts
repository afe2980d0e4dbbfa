import { milliseconds } from '../model/index.ts'
import { clocksRunDown } from './time-cycles.ts'
import type { Search } from './search.ts'
import type { SetSearch } from './sets/set-search.ts'

/** How a goal was proved to be out of danger. */
export type ProofBy = 'sets' | 'search' | 'bystanders' | 'game'

/** What there is to tell of how a level was explored. */
export interface Explored {
  readonly search: Search
  readonly sets: SetSearch | null
  /** Whether the search one by one was given up, since sets and plays were asked first. */
  readonly isGivenUp: boolean
  /** Of goals that are out of danger, by name, how that was proved. */
  readonly proofs: ReadonlyMap<string, ProofBy>
  /** The interactables that were left out of proofs, since they only keep themselves running. */
  readonly bystanders: readonly string[]
}

/** How a level was explored, in sentences: what was looked at one by one and as sets, what was merged or left out, how goals were proved. */
export function accountOf({ search, sets, isGivenUp, proofs, bystanders }: Explored): string[] {
  const { stage, fineness, store } = search
  const { characters, level } = stage.expanded
  const ground = characters.map(
    ({ name }, who) => `${String(stage.space.patches[who]!.patches.length)} patches for ${name}`,
  )
  const all = search.isComplete ? ', which are all' : isGivenUp ? ', and the rest as sets' : ', not all'
  const tick = milliseconds(level.tick ?? 0.1) / 1000
  const time =
    fineness === 'ticks'
      ? `Timers were followed in ticks of ${String(tick)} s, because something stayed undecided without them.`
      : 'Timers are only known to run or not to run.'
  const lines = [
    `Ground: ${ground.join(', ')}; a patch is ground on which everything is the same.`,
    `One by one: ${counted(store.count)} situations${all}. ${time}`,
  ]
  if (sets) {
    const [own] = sets.places
    const places = own!.patches.length
    const patches = stage.space.patches[0]!.patches.length
    const merged =
      places < patches
        ? ` Merged: ${String(patches)} patches into ${String(places)} places, because nothing reacts to a walk within one.`
        : ''
    const state = sets.isComplete ? '' : ', not all of them: the budget of nodes was used up'
    const passive = [...(sets.passive?.characters ?? [])].map((who) => characters[who]!.name)
    const idle =
      passive.length > 0
        ? ` Of ${passive.join(' and ')}, who can do nothing but stand in the way, only that is kept.`
        : ''
    lines.push(
      `As sets: ${counted(sets.countApart)} situations in ${counted(sets.diagrams.made)} nodes${state}.${merged}${idle}`,
    )
  }
  if (stage.tables.clocks.length > 0 && clocksRunDown(stage.tables))
    lines.push('Everything that runs by itself ends: the transitions alone show it.')
  if (bystanders.length > 0)
    lines.push(`Left out of the proofs, because they only keep themselves running: ${bystanders.join(', ')}.`)
  const by = {
    sets: 'over sets',
    search: 'over all situations',
    bystanders: 'over all situations without what was left out',
    game: 'over all situations, whatever others do',
  }
  for (const [goal, how] of proofs)
    lines.push(`Proved that ${goal} can still be met: backwards from the goal, ${by[how]}.`)
  return lines
}

/** A number with its digits in groups; a very large one rounded. */
function counted(count: number): string {
  return count < 1e9 ? Math.round(count).toLocaleString('en-US') : roundly(count)
}

/** A large number as people write it: 6.8 × 10^13. */
export function roundly(count: number): string {
  const [digits, power] = count.toExponential(1).split('e+') as [string, string]
  return `${digits} × 10^${power}`
}
