import { type Expanded, levelAt, startingAt } from '../interactables/index.ts'
import { compileInSlices, initialRegisters, type Tables } from '../machine/index.ts'
import { finish } from '../model/index.ts'
import { isSameGround, makeSpace, nearestStanding, type Space, surroundings } from '../space/index.ts'

/** A level that is ready to be played and explored: its tables and its ground. Nothing in it changes in a play. */
export interface Stage {
  readonly expanded: Expanded
  readonly tables: Tables
  readonly space: Space
}

/** Compiles a level and lays it out. */
export function makeStage(expanded: Expanded): Stage {
  return finish(stageInSlices(expanded))
}

/** The same with pauses, every few milliseconds. Where a stage of nearly the same level is at hand, its ground is taken over if it is the same. */
export function* stageInSlices(expanded: Expanded, like: Stage | null = null): Generator<undefined, Stage> {
  const tables = yield* compileInSlices(expanded)
  yield
  const isLaidOut = like !== null && isSameGround(like.expanded, expanded)
  return { expanded, tables, space: isLaidOut ? { ...like.space, expanded } : yield* makeSpace(expanded) }
}

/** A level in which an interactable that nobody can reach answers a press from every spot, behind all others. */
export function withinReach(stage: Stage, interactable: number): Stage {
  const { space } = stage
  const patches = space.patches.map((ground) => ({
    ...ground,
    patches: ground.patches.map((patch) => {
      const { candidates } = patch.signature
      if (candidates.some((candidate) => candidate.interactable === interactable)) return patch
      const all = [...candidates, { interactable, hiders: [], lingers: false }]
      return { ...patch, signature: { ...patch.signature, candidates: all } }
    }),
  }))
  return { ...stage, space: { ...space, patches } }
}

/** A level in which a character starts on a place, or as near to it as it can stand, and looks the way that the place says. */
export function standingAt(stage: Stage, character: number, place: string): Stage {
  const { expanded } = stage
  const there = expanded.places.find(({ name }) => name === place)
  if (!there) return stage
  const characters = expanded.characters.map((one, who) =>
    who === character ? { ...one, start: there.at, facing: there.facing ?? one.facing } : one,
  )
  return placed(stage, characters, character)
}

/** A level in which a character starts elsewhere: where it says, or as near to that as it can stand. */
function placed(stage: Stage, characters: Expanded['characters'], character: number): Stage {
  const { space } = stage
  const { start, radius } = characters[character]!
  const at = nearestStanding(space.layout, start, radius) ?? start
  const expanded = {
    ...stage.expanded,
    characters: characters.map((one, who) => (who === character ? { ...one, start: at } : one)),
  }
  const starts = space.layout.starts.map((other, who) => (who === character ? at : other))
  return { ...stage, expanded, space: { ...space, expanded, layout: { ...space.layout, starts } } }
}

/** By name, the starts of levels that are joined, but for the usual one. */
export function otherStarts({ expanded: { joined } }: Stage): string[] {
  return (joined?.starts ?? []).slice(1).map(({ name }) => name)
}

const begun = new WeakMap<Stage, Map<string, Stage>>()

/** Levels that are joined, with the player at one of their starts; the same stage each time that it is asked for. */
export function begunAt(stage: Stage, start: string): Stage {
  const known = begun.get(stage) ?? new Map<string, Stage>()
  begun.set(stage, known)
  const made = known.get(start) ?? placed(stage, startingAt(stage.expanded, start), 0)
  known.set(start, made)
  return made
}

/** A level in which one may step from where each character starts into some patches, and back. */
export function withWayTo(stage: Stage, targets: readonly (readonly number[])[]): Stage {
  const { space } = stage
  const patches = space.patches.map((ground, who) => {
    const start = ground.patchAt(space.layout.starts[who]!)
    const own = new Set(targets[who])
    if (start < 0) return ground
    const beside = ground.beside.map((next, patch) => {
      if (patch === start) return [...new Set([...next, ...own])].sort((a, b) => a - b)
      return own.has(patch) && !next.includes(start) ? [...next, start].sort((a, b) => a - b) : next
    })
    return { ...ground, beside }
  })
  return { ...stage, space: { ...space, patches } }
}

/** Where levels are joined, the index of the one that a patch of the first character lies in; else 0. */
export function levelOfPatch({ expanded, space }: Stage, patch: number): number {
  return levelAt(expanded, space.patches[0]!.patches[patch]!.spot)
}

/** The registers of a level in which nothing has happened yet. */
export function startRegisters({ tables, space, expanded }: Stage): Int32Array {
  return initialRegisters(tables, expanded.characters, (character) => {
    return surroundings(space, expanded.characters[character]!, space.layout.starts[character]!).zones
  })
}
