import { type Evidence, type Free, possible, type Possible } from '../explore/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { type Stage, stageInSlices } from '../play/index.ts'
import { rowSubject } from './dead-transition.ts'
import { problemsOf } from './names.ts'
import type { Asked, Context, Found, Grant, Rule, Surroundings } from './rule.ts'

/** A finding, with the rule that found it and the question it answers. */
export interface Placed {
  readonly rule: Rule
  readonly subject: string
  readonly found: Found
}

/** What findings are folded in: all rules, the level, and what exploring it gave. */
export interface Folding {
  readonly rules: readonly Rule[]
  readonly stage: Stage
  readonly evidence: Evidence
  readonly project: Surroundings | null
  readonly budget: number
}

/**
 * For each finding, the index of the one that it follows from: granting that one removes it. Null for those that stand
 * alone. Findings are given, and causes chosen, in file order; of two that follow from each other the first stands.
 */
export function* foldFindings(folding: Folding, findings: readonly Placed[]): Generator<undefined, (number | null)[]> {
  const removes: Set<number>[] = []
  for (const cause of findings) removes.push(yield* removedBy(folding, cause, findings))
  const causes: (number | null)[] = findings.map(() => null)
  for (const index of findings.keys()) {
    const cause = removes.findIndex(
      (removed, other) =>
        removed.has(index) && !(index < other && removes[index]!.has(other)) && !leadsTo(causes, other, index),
    )
    causes[index] = cause < 0 ? null : cause
  }
  return standing(causes, removes)
}

/** Causes such that what a finding is folded under in the end removes it by itself; where that does not, it stands alone. */
function standing(causes: readonly (number | null)[], removes: readonly Set<number>[]): (number | null)[] {
  const kept = [...causes]
  for (let changed = true; changed;) {
    changed = false
    for (const index of kept.keys()) {
      const root = rootOf(kept, index)
      if (root === index || removes[root]!.has(index)) continue
      const other = removes.findIndex((removed, one) => removed.has(index) && kept[one] === null && one !== index)
      kept[index] = other < 0 || other === kept[index] ? null : other
      changed = true
    }
  }
  return kept
}

/** The finding that another one is folded under in the end; itself where it stands alone. */
export function rootOf(causes: readonly (number | null)[], index: number): number {
  let at = index
  for (let next = causes[at]; next !== null && next !== undefined; next = causes[at]) at = next
  return at
}

/** Whether a finding is, by way of others, folded under another. */
function leadsTo(causes: readonly (number | null)[], from: number, to: number): boolean {
  for (let at: number | null = from; at !== null; at = causes[at]!) if (at === to) return true
  return false
}

function* removedBy(folding: Folding, cause: Placed, findings: readonly Placed[]): Generator<undefined, Set<number>> {
  const { grant } = cause.found
  if (!grant || findings.length < 2) return new Set()
  const { rules, evidence, budget } = folding
  const stage = yield* grantedStage(folding.stage, grant)
  const undone = grant.grant === 'harmless' ? grant.row : null
  const lookouts = rules.flatMap((rule) => rule.lookout?.(stage) ?? [])
  const now = yield* possible(stage, evidence.fineness, budget, freeMoves(stage, grant), undone, lookouts)
  if (!now) return new Set()
  yield
  const context = contextOf(folding, stage, now)
  const asked = new Map<Rule, readonly Asked[]>()
  const isGone = (finding: Placed): boolean => {
    const losing = finding.found.facts
    if (losing.rule === 'soft-lock' || losing.rule === 'wasted-item') return isNotLosing(losing, stage, now)
    const all = asked.get(finding.rule) ?? finding.rule.ask(context)
    asked.set(finding.rule, all)
    return !all.some((one) => one.found.some((other) => isSame(finding, one.subject, other)))
  }
  return new Set(findings.flatMap((finding, index) => (finding !== cause && isGone(finding) ? [index] : [])))
}

/** Whether another finding of the same rule is the same; where steps say where it stands, the subject is enough. */
function isSame({ subject, found }: Placed, otherSubject: string, other: Found): boolean {
  return subject === otherSubject && (found.path === other.path || found.isPlacedBySteps === true)
}

function* grantedStage(stage: Stage, grant: Grant): Generator<undefined, Stage> {
  const { level, source } = stage.expanded
  if (grant.grant === 'name') {
    return yield* stageInSlices(expandLevel(level, source, new Map([[grant.path, grant.name]])))
  }
  if (grant.grant === 'reach') return yield* stageInSlices(stage.expanded, new Set([grant.machine]))
  return stage
}

function freeMoves(stage: Stage, grant: Grant): Free | null {
  const none: Free = { rows: [], states: [], item: -1, muted: -1 }
  if (grant.grant === 'row') return { ...none, rows: [grant.row] }
  if (grant.grant === 'state') return { ...none, states: [{ machine: grant.machine, state: grant.state }] }
  if (grant.grant === 'item') return { ...none, item: grant.item }
  if (grant.grant === 'states') {
    const { machine } = grant
    return { ...none, states: stage.tables.states[machine]!.map((_, state) => ({ machine, state })) }
  }
  return grant.grant === 'muted' ? { ...none, muted: grant.row } : null
}

/** What rules would look at if something were granted: all that is possible counts as shown. */
function contextOf({ evidence, project }: Folding, stage: Stage, now: Possible): Context {
  const shown = { shown: { steps: [], short: false } }
  const assumed: Evidence = {
    ...evidence,
    dead: now.rows.map((isPossible) => ({ answer: isPossible ? 'absent' : 'found' })),
    unreachable: now.goals.map((isMet) => ({ answer: isMet ? 'absent' : 'found' })),
    sights: new Map([...now.sights].map((key) => [key, shown])),
    untold: new Set(),
    gap: null,
  }
  return { stage, evidence: assumed, problems: problemsOf(stage, project), project }
}

function isNotLosing(
  facts: Extract<Found['facts'], { rule: 'soft-lock' | 'wasted-item' }>,
  stage: Stage,
  now: Possible,
): boolean {
  const losing = now.losing[stage.expanded.goals.findIndex((goal) => goal.name === facts.goal)]!
  if (facts.interactable === null) return !losing.has(-1)
  const subject = `${facts.interactable}/${facts.transition ?? ''}`
  return ![...losing].some((row) => row >= 0 && rowSubject(stage, stage.tables.rows[row]!) === subject)
}
