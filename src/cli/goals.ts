import type { Expanded } from '../interactables/index.ts'
import { didYouMean } from './nearest.ts'
import { Unusable } from './world.ts'

/** The numbers of goals by their names; of all where none is named. Throws where one is unknown, or there is none. */
export function goalsNamed({ goals }: Expanded, names: readonly string[]): number[] {
  if (goals.length === 0) throw new Unusable('the level has no goals: there is nothing to be reached.')
  if (names.length === 0) return [...goals.keys()]
  return names.map((name) => {
    const index = goals.findIndex((goal) => goal.name === name)
    const known = goals.map((goal) => goal.name)
    if (index < 0)
      throw new Unusable(
        `there is no goal called "${name}". ${didYouMean(name, known, `There are ${known.join(', ')}.`)}`,
      )
    return index
  })
}
