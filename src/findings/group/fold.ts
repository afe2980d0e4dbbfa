import { type Answer, type Evidence, type Free, type Possible, WhatIfs } from '../../explore/index.ts'
import { characterIn, type Expanded, expandInSlices, inLevel, joinedWith } from '../../interactables/index.ts'
import { type Stage, stageInSlices, withinReach, withWayTo } from '../../play/index.ts'
import { stuckState } from '../rules/stuck-state.ts'
import { unusedType } from '../rules/unused-type.ts'
import { unknownName } from '../rules/unknown-name.ts'
import { isLosing } from '../shared/losing.ts'
import { problemsOf } from '../shared/names.ts'
import { type Asked, type Context, type Found, type Grant, isAskedOf, type Part, type Rule } from '../rule.ts'
import { ofPart, rowInWhole } from '../shared/whole.ts'
import type { Placed } from './placed.ts'

/** What findings are grouped in: all rules, what they look at (first as a whole, then level by level), and what exploring it gave. */
export interface Folding {
  readonly rules: readonly Rule[]
  readonly evidence: Evidence
  readonly contexts: readonly Context[]
  readonly budget: number
}

/**
 * For each finding, the index of the one that it follows from: granting that one removes it. Null for those that stand
 * alone; what another one follows from stands alone itself. Findings are given, and causes chosen, in file order; of two that
 * follow from each other the first stands, or that which loses a goal.
 */
export function* foldFindings(folding: Folding, findings: readonly Placed[]): Generator<undefined, (number | null)[]> {
  const whatIfs = new WhatIfs(folding.contexts[0]!.stage, folding.evidence.fineness, folding.budget)
  const known: (ReadonlySet<number> | undefined)[] = findings.map(() => undefined)
  const causes: (number | null)[] = findings.map(() => null)
  const standing = new Set<number>()
  /** Who has been grouped under whom, so that findings that follow from one another in a circle come to an end. */
  const displaced = new Set<string>()
  /** The first that stands and removes a finding; -1: none. */
  const causeOf = (index: number): number =>
    [...standing].sort((a, b) => a - b).find((one) => known[one]!.has(index)) ?? -1
  const isLoss = (index: number): boolean => ['soft-lock', 'wasted-item'].includes(findings[index]!.rule.name)
  const waiting = [...findings.keys()].sort((a, b) => Number(isLoss(b)) - Number(isLoss(a)) || a - b)
  for (let index = waiting.shift(); index !== undefined; index = waiting.shift()) {
    const cause = causeOf(index)
    causes[index] = cause < 0 ? null : cause
    if (cause >= 0) continue
    // What is grouped already is never asked what it would remove: only what stands has others under it.
    const removed = known[index] ?? (yield* removedBy(folding, whatIfs, findings[index]!, findings))
    known[index] = removed
    for (const other of [...standing]) {
      const pair = `${String(index)} ${String(other)}`
      if (!removed.has(other) || displaced.has(pair)) continue
      displaced.add(pair)
      standing.delete(other)
      causes[other] = index
      waiting.unshift(...causes.flatMap((of, child) => (of === other ? [child] : [])))
    }
    standing.add(index)
  }
  return causes
}

function* removedBy(
  folding: Folding,
  whatIfs: WhatIfs,
  cause: Placed,
  findings: readonly Placed[],
): Generator<undefined, Set<number>> {
  const { rules, evidence, contexts } = folding
  const [whole] = contexts
  const grant = cause.found.grant && grantInWhole(whole!.stage, cause.part, cause.found.grant)
  if (!grant || findings.length < 2) return new Set()
  // Where not everything was explored, what a grant would remove is not known either, but for losses by the same transition.
  if (evidence.gap !== null)
    return new Set([...findings.keys()].filter((index) => isLostByTheSame(cause, findings[index]!)))
  const stage = yield* grantedStage(whole!.stage, grant, cause.part)
  const undone = grant.grant === 'harmless' ? grant.row : null
  const asking = new Set(findings.map(({ rule }) => rule))
  const observations = rules
    .filter((rule) => isNeeded(rule, asking) && isAskedOf(rule, whole!))
    .flatMap((rule) => rule.observation?.(stage) ?? [])
  const free = freeMoves(stage, grant)
  const wantsStuck = asking.has(stuckState)
  const now = yield* whatIfs.possible({ stage, free, undone, observations, wantsStuck })
  if (!now) return new Set()
  yield
  const context = contextOf(evidence, whole!, stage, grant, now)
  const ofParts = yield* grantedParts(folding, cause, stage, now)
  const asked = new Map<Rule, readonly Asked[]>()
  const isGone = (finding: Placed): boolean => {
    if (finding.found.isWatched) return false
    const losing = finding.rule.losing?.(finding.found.facts)
    const blamed = finding.found.grant
    // What is stuck by a transition is not, were that one harmless.
    if (undone !== null && blamed?.grant === 'harmless' && finding.rule === stuckState) return blamed.row === undone
    if (losing) return !isLosing(stage, now, losing)
    if (finding.part) {
      const { name } = finding.part
      const own = ofParts.get(name)
      if (!own) return false
      const known = own.asked.get(finding.rule) ?? finding.rule.ask(own.context)
      own.asked.set(finding.rule, known)
      return !known.some((one) => one.found.some((other) => isSame(finding, inLevel(name, one.subject), other)))
    }
    const all = asked.get(finding.rule) ?? finding.rule.ask(context)
    asked.set(finding.rule, all)
    return !all.some((one) => one.found.some((other) => isSame(finding, one.subject, other)))
  }
  const gone = new Set<number>()
  for (const [index, finding] of findings.entries()) {
    yield
    if (finding !== cause && isGone(finding)) gone.add(index)
  }
  return gone
}

/** A level that is asked about by itself, where something is granted, and what rules have answered. */
interface GrantedPart {
  readonly context: Context
  readonly asked: Map<Rule, readonly Asked[]>
}

/** By name, the levels that are asked about by themselves, as far as it makes a difference there what is granted: in one of them; and a name in the others, too. */
function* grantedParts(
  { contexts, evidence }: Folding,
  { part, found: { grant } }: Placed,
  whole: Stage,
  now: Possible,
): Generator<undefined, ReadonlyMap<string, GrantedPart>> {
  const parts = new Map<string, GrantedPart>()
  for (const one of contexts) {
    if (one.of !== 'one-of-levels' || !one.project || !part || !grant) continue
    const { level } = one.project
    if (level !== part.name && grant.grant !== 'name') continue
    const stage = level === part.name ? yield* grantedStage(one.stage, grant, null) : one.stage
    const levels = Object.fromEntries(whole.expanded.joined!.parts.map(({ name, expanded }) => [name, expanded]))
    const own = { ...now, rows: ofPart(whole, { name: level, stage: one.stage }, now.rows) }
    const context = contextOf(evidence, { ...one, project: { ...one.project, levels } }, stage, grant, own)
    parts.set(level, { context, asked: new Map() })
  }
  return parts
}

/** Whether two goals are lost with the same transition: were that one harmless, neither would be. */
function isLostByTheSame(cause: Placed, other: Placed): boolean {
  const [one, another] = [cause.found.grant, other.found.grant]
  return cause !== other && one?.grant === 'harmless' && another?.grant === 'harmless' && one.row === another.row
}

/** Whether what a rule looks out for matters to any of the rules that have found something. */
function isNeeded(rule: Rule, asking: ReadonlySet<Rule>): boolean {
  return asking.has(rule) || [...asking].some((one) => one.asksOthers === true)
}

/** Whether another finding of the same rule is the same; where steps say where it stands, the subject is enough. */
function isSame({ subject, found }: Placed, otherSubject: string, other: Found): boolean {
  return subject === otherSubject && (found.path === other.path || found.isPlacedBySteps === true)
}

/** What would be granted in one of the levels that are explored together, as it is in all of them. */
function grantInWhole(whole: Stage, part: Part | null, grant: Grant): Grant {
  const { expanded, space } = whole
  const home = part && expanded.joined!.parts.find(({ name }) => name === part.name)
  if (!part || !home) return grant
  const row = (index: number): number => rowInWhole(whole, part, index)
  switch (grant.grant) {
    case 'name':
    case 'start':
      return grant
    case 'row':
    case 'harmless':
    case 'muted':
    case 'idle':
      return { ...grant, row: row(grant.row) }
    case 'reach':
    case 'state':
    case 'states':
    case 'time':
      return { ...grant, machine: grant.machine + home.first.interactables }
    case 'item': {
      const { name } = home.expanded.items[grant.item]!
      return { ...grant, item: expanded.items.findIndex((item) => item.name === name) }
    }
    case 'way': {
      const patches = expanded.characters.map((): number[] => [])
      for (const [own, all] of grant.patches.entries()) {
        const who = characterIn(home.expanded, home.first, own)
        for (const patch of all) {
          const [x, y] = part.stage.space.patches[own]!.patches[patch]!.spot
          const there = space.patches[who]!.patchAt([x + home.by, y])
          if (there >= 0) patches[who]!.push(there)
        }
      }
      return { ...grant, patches }
    }
  }
}

/** The stage with something granted; `part`: in which of the levels that are explored together a name is. */
function* grantedStage(stage: Stage, grant: Grant, part: Part | null): Generator<undefined, Stage> {
  const { expanded } = stage
  if (grant.grant === 'name') {
    const granted = new Map(grant.paths.map((path) => [path, grant.name]))
    const { level, source } = part?.stage.expanded ?? expanded
    const made = yield* expandInSlices(level, source, granted)
    return yield* stageInSlices(part && expanded.joined ? joinedWith(expanded.joined, part.name, made) : made)
  }
  if (grant.grant === 'start') return withStart(stage, grant.level)
  if (grant.grant === 'idle') return yield* stageInSlices(withoutRow(stage, grant.row), stage)
  if (grant.grant === 'reach') return withinReach(stage, grant.machine)
  if (grant.grant === 'way') return withWayTo(stage, grant.patches)
  return stage
}

/** Levels that are joined, with one more start: in a level, where its player starts. Of a level by itself nothing is changed. */
function withStart(stage: Stage, level: string): Stage {
  const { joined } = stage.expanded
  if (!joined) return stage
  const starts = [...joined.starts, { name: inLevel(level, 'start'), level }]
  return { ...stage, expanded: { ...stage.expanded, joined: { ...joined, starts } } }
}

/** The level, spelt out, with a transition that is never taken. */
function withoutRow({ expanded, tables }: Stage, index: number): Expanded {
  const { machine, transition } = tables.rows[index]!
  const idle: typeof transition = { ...transition, guard: { kind: 'never', name: '' } }
  const interactables = expanded.interactables.map((placed) =>
    placed.index === machine
      ? { ...placed, transitions: placed.transitions.map((one) => (one === transition ? idle : one)) }
      : placed,
  )
  return { ...expanded, interactables }
}

function freeMoves(stage: Stage, grant: Grant): Free | null {
  const none: Free = { rows: [], states: [], item: -1, places: [], muted: -1, untimed: -1 }
  if (grant.grant === 'row') return { ...none, rows: [grant.row] }
  if (grant.grant === 'state') return { ...none, states: [{ machine: grant.machine, state: grant.state }] }
  if (grant.grant === 'item') return { ...none, item: grant.item }
  if (grant.grant === 'states') {
    const { machine } = grant
    return { ...none, states: stage.tables.states[machine]!.map((_, state) => ({ machine, state })) }
  }
  if (grant.grant === 'start') {
    const mark = inLevel(grant.level, '')
    const { places } = stage.expanded
    return { ...none, places: [...places.keys()].filter((place) => places[place]!.name.startsWith(mark)) }
  }
  if (grant.grant === 'time') return { ...none, untimed: grant.machine }
  return grant.grant === 'muted' ? { ...none, muted: grant.row } : null
}

/** What rules would look at if something were granted: all that is possible counts as shown. */
function contextOf(
  evidence: Evidence,
  { of, project, parts }: Context,
  stage: Stage,
  grant: Grant,
  now: Possible,
): Context {
  const shown = { shown: { steps: [], short: false } }
  const answers = (all: readonly boolean[]): Answer[] => all.map((isSo) => ({ answer: isSo ? 'ruled-out' : 'found' }))
  const [usual, ...others] = evidence.byStart
  const first = usual && { ...usual, evidence: { ...usual.evidence, unreachable: answers(now.goalsAtFirst) } }
  const assumed: Evidence = {
    ...evidence,
    dead: answers(now.rows),
    unreachable: answers(now.goals),
    // Where a play may begin anywhere else, it is enough that a goal can be met from there.
    byStart: first && grant.grant !== 'start' ? [first, ...others] : [],
    witnesses: new Map([...now.witnesses].map((key) => [key, shown])),
    untold: new Map(),
    possible: null,
    gap: null,
  }
  const problems = of === 'levels' ? [] : problemsOf(stage, project)
  return { of, stage, evidence: assumed, problems, parts, project, watching: new Map() }
}

/** Where what others follow from is no more than a sign, a goal among them whose obstruction is known leads instead. */
export function goalsFirst(findings: readonly Placed[], causes: readonly (number | null)[]): (number | null)[] {
  const leads = new Map<number, number>()
  for (const [index, { rule, found }] of findings.entries()) {
    const cause = causes[index]
    if (typeof cause !== 'number' || leads.has(cause)) continue
    if (rule.unmet?.(found.facts)?.isExplained === true && findings[cause]!.rule.isSign) leads.set(cause, index)
  }
  const led = causes.map((cause, index) => {
    const leader = leads.get(cause ?? index)
    return leader === undefined ? cause : leader === index ? null : leader
  })
  // A goal that asks for a name which leads nowhere cannot be met for that alone.
  return led.map((cause, index) => {
    const { rule, found } = findings[index]!
    const unmet = rule.unmet?.(found.facts)
    if (cause !== null || !unmet || led.includes(index)) return cause
    const asked = `goals.${unmet.goal}.`
    const name = findings.findIndex(
      (other, i) => led[i] === null && other.rule === unknownName && other.found.path?.startsWith(asked) === true,
    )
    return name < 0 ? null : name
  })
}

/** Findings that come of one and the same missing instance are one: the first of them leads, but for that its type is not used. */
export function byLostType(findings: readonly Placed[], causes: readonly (number | null)[]): (number | null)[] {
  const byType = new Map<string, number[]>()
  for (const [index, { rule, found }] of findings.entries()) {
    const type = causes[index] === null ? (rule.lostType?.(found.facts) ?? null) : null
    if (type !== null) byType.set(type, [...(byType.get(type) ?? []), index])
  }
  const leads = new Map<number, number>()
  for (const all of byType.values()) {
    const leader = all.find((index) => findings[index]!.rule !== unusedType) ?? all[0]!
    for (const index of all) if (index !== leader) leads.set(index, leader)
  }
  return causes.map((cause, index) => leads.get(cause ?? index) ?? cause)
}
