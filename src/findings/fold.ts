import { type Evidence, type Free, possible, type Possible } from '../explore/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { type Stage, stageInSlices } from '../play/index.ts'
import { leadingTo } from './unreachable-state.ts'
import { answersOn, whoMayAsk } from './out-of-reach.ts'
import { rowSubject } from './dead-transition.ts'
import type { Found, Grant } from './rule.ts'

/**
 * For each finding, the index of the one that it follows from: granting that one removes it. Null for those that stand
 * alone. Findings are given, and causes chosen, in file order; of two that follow from each other the first stands.
 */
export function* foldFindings(
  stage: Stage,
  evidence: Evidence,
  findings: readonly Found[],
  budget: number,
): Generator<undefined, (number | null)[]> {
  const removes: Set<number>[] = []
  for (const cause of findings) removes.push(yield* removedBy(stage, evidence, cause, findings, budget))
  const causes: (number | null)[] = findings.map(() => null)
  for (const index of findings.keys()) {
    const cause = removes.findIndex(
      (removed, other) =>
        removed.has(index) && !(index < other && removes[index]!.has(other)) && !leadsTo(causes, other, index),
    )
    causes[index] = cause < 0 ? null : cause
  }
  return causes
}

/** Whether a finding is, by way of others, folded under another. */
function leadsTo(causes: readonly (number | null)[], from: number, to: number): boolean {
  for (let at: number | null = from; at !== null; at = causes[at]!) if (at === to) return true
  return false
}

function* removedBy(
  stage: Stage,
  evidence: Evidence,
  cause: Found,
  findings: readonly Found[],
  budget: number,
): Generator<undefined, Set<number>> {
  const { grant } = cause
  if (!grant || findings.length < 2) return new Set()
  const granted = yield* grantedStage(stage, grant)
  const undone = grant.grant === 'harmless' ? grant.row : null
  const now = yield* possible(granted, evidence.fineness, budget, freeMoves(grant), undone)
  if (!now) return new Set()
  const gone = findings.flatMap((finding, index) => (finding !== cause && isGone(finding, granted, now) ? [index] : []))
  return new Set(gone)
}

function* grantedStage(stage: Stage, grant: Grant): Generator<undefined, Stage> {
  const { level, source } = stage.expanded
  if (grant.grant === 'name') {
    return yield* stageInSlices(expandLevel(level, source, new Map([[grant.path, grant.name]])))
  }
  if (grant.grant === 'reach') return yield* stageInSlices(stage.expanded, new Set([grant.machine]))
  return stage
}

function freeMoves(grant: Grant): Free | null {
  if (grant.grant === 'row') return { rows: [grant.row], states: [] }
  if (grant.grant === 'state') return { rows: [], states: [{ machine: grant.machine, state: grant.state }] }
  return null
}

/** Whether a finding would no longer be found. */
function isGone(finding: Found, granted: Stage, now: Possible): boolean {
  const { facts } = finding
  const machineOf = (name: string): number => granted.expanded.interactables.findIndex((one) => one.name === name)
  switch (facts.rule) {
    case 'unknown-name':
      return !granted.expanded.problems.some((problem) => problem.path === facts.problem.path)
    case 'out-of-reach': {
      const machine = machineOf(facts.interactable)
      return whoMayAsk(granted, machine).some((who) =>
        granted.space.patches[who]!.patches.some(({ sign }) => answersOn(sign, machine)),
      )
    }
    case 'unreachable-state': {
      const machine = machineOf(facts.interactable)
      const state = granted.expanded.interactables[machine]!.states.findIndex(({ name }) => name === facts.state)
      if (state === granted.expanded.interactables[machine]!.initial) return true
      return leadingTo(granted.tables, machine, state).some((row) => now.rows[row])
    }
    case 'dead-transition': {
      const subject = `${facts.interactable}/${facts.transition}`
      return granted.tables.rows.some((row) => now.rows[row.index] && rowSubject(granted, row) === subject)
    }
    case 'unreachable-goal':
      return now.goals[goalOf(granted, facts.goal)] === true
    case 'soft-lock':
    case 'wasted-item': {
      const losing = now.losing[goalOf(granted, facts.goal)]!
      if (facts.interactable === null) return !losing.has(-1)
      const subject = `${facts.interactable}/${facts.transition ?? ''}`
      return ![...losing].some((row) => row >= 0 && rowSubject(granted, granted.tables.rows[row]!) === subject)
    }
    default:
      return false
  }
}

function goalOf(stage: Stage, name: string): number {
  return stage.expanded.goals.findIndex((goal) => goal.name === name)
}
