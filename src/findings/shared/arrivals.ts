import type { Change } from '../../interactables/index.ts'
import type { Context } from '../rule.ts'
import { startsOf } from '../../play/index.ts'

/** A place at which somebody comes into the level that is checked. */
export interface Arrival {
  readonly place: number
  /** The level that leads there; the same one for what only moves a character; null for a start of the project. */
  readonly from: string | null
  /** What leads there; null for a start. */
  readonly by: string | null
}

/** All arrivals at places of the level: by exits of the levels of the project, by what moves characters in it, by starts. */
export function arrivalsAt({ stage, project }: Context): Arrival[] {
  const { expanded } = stage
  const placeOf = (name: string): number => expanded.places.findIndex((place) => place.name === name)
  const within = expanded.interactables.flatMap(({ name, transitions }) =>
    transitions.flatMap(({ changes }) =>
      changes.flatMap((change): Arrival[] =>
        change.kind === 'move-to'
          ? [change, ...(change.checkpoints ?? [])].map(({ place }) => ({
              place,
              from: project?.level ?? null,
              by: name,
            }))
          : [],
      ),
    ),
  )
  if (!project) return within
  const exits = Object.entries(project.levels).flatMap(([from, level]) =>
    level.interactables.flatMap(({ name, transitions }) =>
      transitions
        .flatMap(({ changes }) => changes.flatMap((change) => exitTo(change, project.level)))
        .map((place): Arrival => ({ place: placeOf(place), from, by: name })),
    ),
  )
  const starts = Object.values(startsOf(project.project)).flatMap(({ level, place }): Arrival[] =>
    level === project.level && place !== undefined ? [{ place: placeOf(place), from: null, by: null }] : [],
  )
  const seen = new Set<string>()
  return [...within, ...exits, ...starts].filter((one) => {
    const key = `${String(one.place)} ${one.from ?? ''} ${one.by ?? ''}`
    return one.place >= 0 && !seen.has(key) && seen.add(key)
  })
}

function exitTo(change: Change, level: string): string[] {
  return change.kind === 'exit-to' && change.level === level ? [change.place] : []
}
