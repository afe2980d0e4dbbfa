import { listed } from '../shared/texts.ts'
import { isBuiltIn, type Settled, settling } from '../../interactables/index.ts'
import { channelOf, type Instance, type Feedback, finish, type Level, mapped, moments } from '../../model/index.ts'
import { happens } from '../report/feedback-table.ts'
import { ruledOut, type Asked, type Context, found, type Found, type Rule } from '../rule.ts'

/**
 * So many instances must be alike before another one is odd, one more where that one says something else, which may be meant; and
 * at most one in so many may be odd.
 */
const fewestAlike = 3
const oddOneIn = 4

/** What is known of a finding of this rule. */
export interface InconsistentInstanceFacts {
  readonly type: string
  /** The setting, or another part of an instance, by its path in it. */
  readonly part: string
  /** What instances say there, by how many say it, most first; null: nothing. */
  readonly sides: readonly { readonly value: string | null; readonly instances: readonly string[] }[]
  /** The instances that differ from the rest; empty where it is the type that does. */
  readonly odd: readonly string[]
  /** What the type says, where it is the odd one; null where it is not. */
  readonly definition: string | null
}

/** An instance that lacks what its siblings have, or differs from them where all others agree; or a type that they all overrule. */
export const inconsistentInstance: Rule<InconsistentInstanceFacts> = {
  name: 'inconsistent-instance',
  severity: 'advice',
  isByLevel: true,
  asksOthers: true,
  ask: (context) => finish(inconsistentInstance.askInSlices!(context)),
  *askInSlices(context) {
    const { level } = context.stage.expanded
    const instances = Object.entries(level.interactables ?? {})
    const types = [...new Set(instances.map(([, { type }]) => type))]
    const settled = settling(level)
    const asked: Asked<InconsistentInstanceFacts>[] = []
    for (const type of types) {
      const names = instances.flatMap(([name, instance]) => (instance.type === type ? [name] : []))
      if (names.length < fewestAlike) continue
      const parts = new Map(yield* mapped(names, (name) => [name, partsOf(context, name, settled(name))] as const))
      const paths = [...new Set([...parts.values()].flatMap((own) => [...own.keys()]))]
      const told: string[] = []
      for (const path of paths) {
        yield
        const subject = `${type}/${path}`
        // What is in a group is not told where the group itself was.
        const isTold = told.some((before) => path.startsWith(`${before}.`))
        const one = isTold ? null : oddOne(level, type, path, parts)
        if (one) told.push(path)
        asked.push(one ? found(subject, one) : ruledOut(subject))
      }
    }
    return asked
  },
  table: ({ sides }) => sides,
  says: oddText,
  fix(facts) {
    return facts.definition === null
      ? `Give ${listed(facts.odd)} what the others have, or accept that ${facts.odd.length > 1 ? 'they differ' : 'it differs'}.`
      : `Put into the type what its instances all say instead, and take it out of them.`
  },
}

/** What an instance says at a part; `given`: whether it says so itself. */
interface Part {
  readonly value: string
  readonly given: boolean
  /** What the type says there; null: nothing. */
  readonly usual: string | null
  /** It makes no difference what this instance says there. */
  readonly isMoot: boolean
}

/** The parts of an instance by path: what may well be alike between siblings. */
function partsOf(context: Context, name: string, allSettled: readonly Settled[]): Map<string, Part> {
  const { level, interactables } = context.stage.expanded
  const machine = interactables.findIndex((one) => one.name === name)
  const instance: Instance = level.interactables![name]!
  const parts = new Map<string, Part>()
  const own = { given: true, usual: null, isMoot: false }
  for (const settled of allSettled) {
    const value = shared(settled, settled.value)
    const usual = shared(settled, settled.usual)
    if (value !== null)
      parts.set(`set.${settled.path}`, { value, given: settled.given !== undefined, usual, isMoot: false })
  }
  const feedback: Readonly<Record<string, readonly Feedback[] | undefined>> = instance.feedback ?? {}
  const type: Readonly<Record<string, readonly Feedback[] | undefined>> = level.types?.[instance.type]?.feedback ?? {}
  for (const moment of moments) {
    // Whether an instance tells of what never happens to it does not matter.
    if (happens(context, machine, moment).answer !== 'ruled-out') {
      parts.set(`feedback.${moment}`, { value: '', given: false, usual: null, isMoot: true })
      continue
    }
    if (!feedback[moment] && !type[moment]) continue
    const usual = type[moment] ? channelsOf(type[moment]) : null
    const value = channelsOf(feedback[moment] ?? type[moment] ?? [])
    parts.set(`feedback.${moment}`, { value, given: feedback[moment] !== undefined, usual, isMoot: false })
  }
  for (const key of ['who', 'in-the-way', 'priority'] as const) {
    if (instance[key] !== undefined) parts.set(key, { ...own, value: JSON.stringify(instance[key]) })
  }
  for (const [key, value] of Object.entries(instance.range ?? {})) {
    parts.set(`range.${key}`, { ...own, value: JSON.stringify(value) })
  }
  return parts
}

/** Kinds of settings that name something: each instance may well name another. */
const individual: readonly Settled['kind'][] = [
  'item',
  'interactable',
  'flag',
  'signal',
  'counter',
  'text',
  'place',
  'level',
  'items',
  'item-names',
  'digits',
  'condition',
  'tag',
]

/** A value as it is compared with those of siblings; null where it is not there. */
function shared({ kind }: Settled, value: unknown): string | null {
  if (value === undefined || value === null) return null
  if (individual.includes(kind)) return 'given'
  if (kind === 'triggers' && Array.isArray(value)) {
    return JSON.stringify(value.map((one: unknown) => (typeof one === 'string' ? one : 'signal')))
  }
  return kind === 'group' ? 'given' : JSON.stringify(value)
}

function channelsOf(entries: readonly Feedback[]): string {
  return entries.map(channelOf).join(', ')
}

function oddOne(
  level: Level,
  type: string,
  path: string,
  all: ReadonlyMap<string, Map<string, Part>>,
): Found<InconsistentInstanceFacts> | null {
  const parts = new Map([...all].filter(([, own]) => own.get(path)?.isMoot !== true))
  const sides = new Map<string | null, string[]>()
  for (const [name, own] of parts) {
    const value = own.get(path)?.value ?? null
    sides.set(value, [...(sides.get(value) ?? []), name])
  }
  const sorted = [...sides].sort((a, b) => b[1].length - a[1].length)
  const [most, instances = []] = sorted[0] ?? [null]
  const odd = [...parts.keys()].filter((name) => !instances.includes(name))
  const areGiven = odd.some((name) => parts.get(name)?.get(path)?.given === true)
  const fewest = areGiven ? fewestAlike + 1 : fewestAlike
  if (most === null || instances.length < fewest || odd.length * oddOneIn > parts.size) return null
  // What nobody says, since it is so anyway, is not something that siblings share.
  if (instances.some((name) => parts.get(name)?.get(path)?.given !== true)) return null
  const definition = overruled(level, type, path, instances, odd, parts)
  if (odd.length === 0 && definition === null) return null
  const table = sorted.map(([value, those]) => ({ value, instances: those }))
  const [first] = odd
  const own = `interactables.${first ?? ''}`
  const at = definition === null ? own : `types.${type}`
  const blamed = definition === null ? odd : []
  const isThere = first !== undefined && parts.get(first)?.get(path)?.given === true
  return {
    path: definition === null && isThere ? `${own}.${path}` : at,
    isAboutKey: true,
    facts: { type, part: path, sides: table, odd: blamed, definition },
    steps: [],
    grant: null,
  }
}

/** What the type says, where all instances that are alike overrule it and the others, if any, follow it; null otherwise. */
function overruled(
  level: Level,
  type: string,
  path: string,
  alike: readonly string[],
  odd: readonly string[],
  parts: ReadonlyMap<string, Map<string, Part>>,
): string | null {
  if (isBuiltIn(level, type)) return null
  const partOf = (name: string): Part | undefined => parts.get(name)?.get(path)
  const usual = partOf(alike[0]!)?.usual ?? null
  if (usual === null || partOf(alike[0]!)?.value === usual) return null
  const all = alike.every((name) => partOf(name)?.given === true) && odd.every((name) => partOf(name)?.given !== true)
  return all ? usual : null
}

function oddText({ type, part, sides, odd, definition }: InconsistentInstanceFacts): string {
  const [most] = sides
  const many = most?.instances.length ?? 0
  const all = sides.reduce((sum, { instances }) => sum + instances.length, 0)
  if (definition !== null) {
    return `${String(many)} of ${String(all)} instances of ${type} say ${part}: ${valueText(most?.value)} instead of what the type says (${definition}): it may be the type that is wrong.`
  }
  const side = sides.find(({ instances }) => instances.includes(odd[0] ?? ''))
  return `${listed(odd)} ${odd.length > 1 ? 'differ' : 'differs'} from its siblings: ${String(many)} of ${String(all)} instances of ${type} have ${part}: ${valueText(most?.value)}, this one ${valueText(side?.value)}.`
}

function valueText(value: string | null | undefined): string {
  if (value === null || value === undefined) return 'has nothing there'
  return value === 'given' ? 'something there' : value
}
