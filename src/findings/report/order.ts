import { changedLines, edited, type Edit, type Place, type Source } from '../../model/index.ts'
import { type Expanded, ownPlace, ownSpot, unmarked } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { type Acceptance, acceptanceFor } from './accepted.ts'
import { ruleGroups } from '../catalogue.ts'
import type { Placed } from '../group/placed.ts'
import type { TriedFix } from '../fixes/tried.ts'
import { fixOf } from './fix.ts'
import type { FileReport, Finding, FindingSummary, FollowingFinding } from './report.ts'
import type { Found, Severity } from '../rule.ts'
import { toldSteps } from './told.ts'

const severities: readonly Severity[] = ['error', 'warning', 'advice']

/** Findings, what each follows from, and what the level accepts. */
export interface Judged {
  readonly found: readonly Placed[]
  /** For each, the index of the one that it follows from, or null. */
  readonly causes: readonly (number | null)[]
  /** Acceptances that accept nothing. */
  readonly idle: readonly Placed[]
  readonly acceptances: readonly Acceptance[]
  /** Changes that were tried, by the index of the finding that they do away with. */
  readonly tried: ReadonlyMap<number, readonly TriedFix[]>
}

/** Findings by where they stand in the file, or in one file after the other; those of one place in the order of the rules. */
export function inFileOrder(expanded: Expanded, found: readonly Placed[]): Placed[] {
  const parts = expanded.joined?.parts ?? [{ name: null, expanded }]
  const order = new Map<string, number>()
  for (const { name, expanded: one } of parts) {
    for (const path of pathsInOrder(one.source.value, '')) order.set(JSON.stringify([name, path]), order.size)
  }
  const rank = (one: Placed): number => {
    const { level, path } = homeOf(expanded, one)
    for (let at = path ?? ''; at !== ''; at = at.slice(0, Math.max(0, at.lastIndexOf('.')))) {
      const known = order.get(JSON.stringify([level, at]))
      if (known !== undefined) return known
    }
    return -1
  }
  return [...found].sort((a, b) => rank(a) - rank(b))
}

/** Where a finding stands: the level that it belongs to, where there are several; its path there, and the source of that. */
export function homeOf(
  expanded: Expanded,
  { part, subject, found }: Placed,
): { readonly level: string | null; readonly path: string | null; readonly source: Source } {
  if (part) return { level: part.name, path: found.path, source: part.stage.expanded.source }
  if (!expanded.joined) return { level: null, path: found.path, source: expanded.source }
  const home = ownPlace(expanded, found.path ?? subject)
  return { level: home.level, path: found.path === null ? null : home.path, source: home.source }
}

function pathsInOrder(value: unknown, path: string): string[] {
  if (typeof value !== 'object' || value === null) return [path]
  const inner = Object.entries(value).flatMap(([key, part]) => pathsInOrder(part, path === '' ? key : `${path}.${key}`))
  return [path, ...inner]
}

/** The findings of a report, in the order in which one would fix them, and apart from them those that are accepted. Pauses after each. */
export function* writtenUp(
  stage: Stage,
  { found, causes, idle, acceptances, tried }: Judged,
): Generator<undefined, Pick<FileReport, 'findings' | 'accepted'>> {
  const acceptanceOf = (one: Placed): Acceptance | undefined =>
    acceptanceFor(acceptances, one.rule.name, one.subject, homeOf(stage.expanded, one).level)
  const isAccepted = (one: Placed): boolean => acceptanceOf(one) !== undefined
  const groups = found.flatMap((root, index): Group[] => {
    if (causes[index] !== null) return []
    const follows = found.filter((other, i) => causes[i] === index && !isAccepted(other))
    if (!isAccepted(root)) return [{ root, follows }]
    // That a cause is accepted does not make what follows from it so.
    const [worst] = [...follows].sort(worstFirst)
    return worst ? [{ root: worst, follows: follows.filter((one) => one !== worst) }] : []
  })
  groups.push(...idle.map((root) => ({ root, follows: [] })))
  const triedFor = (one: Placed): readonly TriedFix[] => tried.get(found.indexOf(one)) ?? []
  const findings: Finding[] = []
  for (const alike of merged(groups)) {
    const [{ root }] = alike
    const below = alike.flatMap((group) => group.follows)
    const [worst] = [...below].sort(worstFirst)
    const leads = worst !== undefined && worstFirst(worst, root) < 0
    const follows: FollowingFinding[] = []
    for (const one of below) {
      follows.push(inFull(stage, one, triedFor(one)))
      yield
    }
    findings.push({
      ...inFull(stage, root, triedFor(root)),
      severity: leads ? worst.rule.severity : root.rule.severity,
      headline: leads ? worst.rule.says(worst.found.facts) : null,
      also: alike.slice(1).map((group) => group.root.subject),
      follows,
    })
    yield
  }
  const accepted = found.flatMap((one) => {
    const acceptance = acceptanceOf(one)
    return acceptance ? [{ ...summary(stage, one), because: acceptance.because }] : []
  })
  return { findings: toBeFixed(findings), accepted }
}

/** A finding that stands, and those that follow from it. */
interface Group {
  readonly root: Placed
  readonly follows: readonly Placed[]
}

/** The worst comes first: by severity, and of errors those that keep a player from a goal. */
function worstFirst(one: Placed, other: Placed): number {
  const rank = ({ rule }: Placed): number => 2 * severities.indexOf(rule.severity) + (rule.isAboutGoals ? 0 : 1)
  return rank(one) - rank(other)
}

/** Findings of one line that say the same of several instances are one. */
function merged(all: readonly Group[]): [Group, ...Group[]][] {
  const alike = new Map<string, [Group, ...Group[]]>()
  for (const group of all) {
    const { rule, found, subject } = group.root
    const facts: Record<string, unknown> = { ...found.facts }
    delete facts.interactable
    const level = group.root.part?.name
    const key = found.path === null ? JSON.stringify(subject) : JSON.stringify([rule.name, level, found.path, facts])
    const known = alike.get(key)
    if (known) known.push(group)
    else alike.set(key, [group])
  }
  return [...alike.values()]
}

/** A finding by itself: what it says, where, the steps, and the fix. */
function inFull(all: Stage, one: Placed, tried: readonly TriedFix[]): FollowingFinding {
  const stage = one.part?.stage ?? all
  // Where there is just one smallest change, the place of it is that of the mistake.
  const [only] = tried.length === 1 ? tried : []
  const place = only && { path: only.edit.path, isAboutKey: only.edit.do !== 'replace' }
  const placed: Placed = { ...one, found: { ...one.found, ...place } }
  const { source } = homeOf(stage.expanded, placed)
  const { says, isAutomatic, edit } = fixOf(stage, source, one.rule, one.found)
  // What was tried for this level goes before what may do in general.
  const isMade = edit !== null && tried.length === 0
  return {
    ...summary(stage, placed),
    steps: toldSteps(stage, one.found.steps),
    spots: (one.found.spots ?? []).map(({ at, text }) => ({ at: ownSpot(stage.expanded, at), text })),
    short: one.found.short ?? false,
    lastSafe: lastSafeOf(stage, one.found),
    fix: {
      says,
      automatic: isAutomatic && isMade,
      edit: isMade ? { ...edit } : null,
      lines: isMade ? linesOf(source, edit) : null,
    },
    tried: tried.map((small) => {
      const own = ownPlace(stage.expanded, small.edit.path)
      const made = unmarked(small.edit)
      return { says: small.says, edit: { ...made }, lines: linesOf(own.source, made) }
    }),
    table: (one.rule.table?.(one.found.facts) ?? []).map(({ value, instances }) => ({
      value,
      instances: [...instances],
    })),
  }
}

/** The lines that a change changes, and as they would be; null where it cannot be made in the text. */
function linesOf(source: Source, edit: Edit): Finding['fix']['lines'] {
  const text = edited(source, edit)
  const lines = text === null ? null : changedLines(source.text, text)
  return lines && { line: lines.line, was: [...lines.was], becomes: [...lines.becomes] }
}

function lastSafeOf(stage: Stage, { steps, lastSafe }: Found): Finding['lastSafe'] {
  if (!lastSafe) return null
  const { after } = lastSafe
  return { after, steps: toldSteps(stage, [...steps.slice(0, after), ...lastSafe.steps]).slice(after) }
}

function summary(stage: Stage, one: Placed): FindingSummary {
  const { rule, subject, found } = one
  const { facts } = found
  const { path, source } = homeOf((one.part?.stage ?? stage).expanded, one)
  const isAtKey = found.isAboutKey ?? (path !== null && !isPlain(source, path))
  const place: Place | null = path === null ? null : isAtKey ? source.keyPlace(path) : source.place(path)
  return {
    rule: rule.name,
    severity: rule.severity,
    subject,
    about: 'interactable' in facts && typeof facts.interactable === 'string' ? facts.interactable : null,
    place,
    message: rule.says(facts),
  }
}

/** Whether a path leads to a plain value: of a list, a table or nothing its key says more than where it begins. */
function isPlain({ value }: Source, path: string): boolean {
  let at = value
  for (const key of path.split('.')) {
    if (typeof at !== 'object' || at === null) break
    at = (at as Record<string, unknown>)[key]
  }
  return typeof at !== 'object' && at !== undefined
}

/**
 * The order in which one would fix: by severity; first what keeps a player from a goal; then what belongs to one
 * interactable together, those first that have something wrong with names and values, then in the order of the file.
 */
function toBeFixed(findings: readonly Finding[]): Finding[] {
  const groups = Object.values(ruleGroups).map((all) => all.map(({ name }) => String(name)))
  const aboutGoals = new Set(
    Object.values(ruleGroups).flatMap((all) => all.flatMap((rule) => (rule.isAboutGoals ? [rule.name] : []))),
  )
  const groupOf = ({ rule }: Finding): number => groups.findIndex((all) => all.includes(rule))
  const within = (finding: Finding): number => groups[groupOf(finding)]!.indexOf(finding.rule)
  const position = ({ place }: Finding): number => (place?.line ?? 0) * 1000 + (place?.column ?? 0)
  const home = (finding: Finding): string => finding.about ?? `${String(position(finding))} ${finding.subject}`
  const isAboutGoal = ({ rule, follows }: Finding): boolean =>
    [rule, ...follows.map((one) => one.rule)].some((name) => aboutGoals.has(name))
  const together = new Map<string, { group: number; position: number }>()
  for (const finding of findings) {
    const key = `${String(isAboutGoal(finding))} ${finding.severity} ${home(finding)}`
    const known = together.get(key) ?? { group: Infinity, position: Infinity }
    together.set(key, {
      group: Math.min(known.group, groupOf(finding)),
      position: Math.min(known.position, position(finding)),
    })
  }
  const rank = (finding: Finding): number[] => {
    const isFirst = isAboutGoal(finding)
    const { group, position: first } = together.get(`${String(isFirst)} ${finding.severity} ${home(finding)}`)!
    const place = [group, first, groupOf(finding), position(finding), within(finding)]
    return [severities.indexOf(finding.severity), isFirst ? 0 : 1, ...place]
  }
  const ranked = findings.map((finding) => ({ finding, rank: rank(finding) }))
  ranked.sort((a, b) => {
    const differs = a.rank.findIndex((value, i) => value !== b.rank[i])
    return differs < 0 ? 0 : a.rank[differs]! - b.rank[differs]!
  })
  return ranked.map(({ finding }) => finding)
}
