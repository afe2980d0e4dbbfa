import { likely } from '../shared/edits.ts'
import { type Settled, settling } from '../../interactables/index.ts'
import { finish, type Level, mapped } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'
import { ruledOut, type Asked, found, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface StaleReferenceFacts {
  readonly interactable: string
  readonly type: string
  /** The other instance, which points at the same. */
  readonly original: string
  readonly target: string
  /** What nothing points at. */
  readonly free: string
}

/**
 * An instance that still points at what the copy it was made from points at, while another one of that kind stands about and
 * nothing points at it.
 */
export const staleReference: Rule<StaleReferenceFacts> = {
  name: 'stale-reference',
  severity: 'warning',
  isByLevel: true,
  ask: (context) => finish(staleReference.askInSlices!(context)),
  *askInSlices({ stage }) {
    const references = yield* referencesOf(stage.expanded.level)
    const taken = new Set<string>()
    return references.map(({ instance, type, path, target }): Asked<StaleReferenceFacts> => {
      const subject = `${instance}/${path}`
      const before = references.find((one) => one.type === type && one.path === path && one.target === target)!
      if (before.instance === instance) return ruledOut(subject)
      const free = nearestFree(stage, target, instance, taken)
      if (free === null) return ruledOut(subject)
      taken.add(free)
      const at = `interactables.${instance}.set.${path}`
      const facts = {
        interactable: instance,
        type,
        original: before.instance,
        target,
        free,
      } as const
      return found(subject, { path: at, facts, steps: [], grant: { grant: 'name', paths: [at], name: free } })
    })
  },
  says(facts) {
    return `${facts.interactable} points at ${facts.target} as ${facts.original} does, while nothing points at ${facts.free}: what was copied still asks for what the first one asks for.`
  },
  fix(facts) {
    return `Let ${facts.interactable} point at ${facts.free}.`
  },
  edit({ path, facts }) {
    return likely({ do: 'replace', path, value: facts.free })
  },
}

interface Reference {
  readonly instance: string
  readonly type: string
  readonly path: string
  readonly target: string
}

/** The settings of instances that name other interactables, in file order. */
function* referencesOf(level: Level): Generator<undefined, Reference[]> {
  const settled = settling(level)
  const references = yield* mapped(Object.entries(level.interactables ?? {}), ([instance, { type }]) =>
    settled(instance).flatMap(({ kind, path, given }: Settled) =>
      kind === 'interactable' && typeof given === 'string' ? [{ instance, type, path, target: given }] : [],
    ),
  )
  return references.flat()
}

/** Of the interactables of the same type as a target, the one nearest to an instance that nothing names and that tells nobody; null for none. */
function nearestFree(
  { expanded, space }: Stage,
  target: string,
  instance: string,
  taken: ReadonlySet<string>,
): string | null {
  const { interactables, level } = expanded
  const type = level.interactables?.[target]?.type
  const spot = (name: string) => space.layout.figures[interactables.findIndex((one) => one.name === name)]!.handle
  const own = spot(instance)
  let best: string | null = null
  let least = Infinity
  for (const { name, type: of, transitions } of interactables) {
    const acts = transitions.some(({ changes }) =>
      changes.some(({ kind }) => kind === 'send' || kind === 'set' || kind === 'count'),
    )
    if (of !== type || name === target || acts || taken.has(name) || isNamed(level, name)) continue
    const at = spot(name)
    const distance = own && at ? (own[0] - at[0]) ** 2 + (own[1] - at[1]) ** 2 : 0
    if (distance < least) [best, least] = [name, distance]
  }
  return best
}

/** Whether anything in a level names an interactable, as a whole value. */
function isNamed(level: Level, name: string): boolean {
  const within = (value: unknown): boolean => {
    if (typeof value === 'string') return value === name
    return typeof value === 'object' && value !== null && Object.values(value).some(within)
  }
  return within([level.interactables ?? {}, level.goals ?? {}, level.types ?? {}])
}
