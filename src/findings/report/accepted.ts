import { type Expanded, inLevel, levelIn } from '../../interactables/index.ts'
import type { Placed } from '../group/placed.ts'
import { staleAcceptance } from '../rules/stale-acceptance.ts'
import { found } from '../rule.ts'
import type { Question } from './report.ts'

/** A finding that the level file accepts. */
export interface Acceptance {
  readonly rule: string
  readonly of: string | null
  readonly because: string
  /** Its path in the level. */
  readonly path: string
}

/** The acceptances of a level, in the order of the file; of levels that are checked together, all of them, level by level. */
export function acceptancesOf({ level, joined }: Expanded): Acceptance[] {
  if (joined) {
    return joined.parts.flatMap(({ name, expanded }) =>
      acceptancesOf(expanded).map((one) => ({
        ...one,
        of: inLevel(name, one.of ?? 'level'),
        path: inLevel(name, one.path),
      })),
    )
  }
  return (level['accepted-findings'] ?? []).map(({ rule, of, because }, i) => ({
    rule,
    of: of ?? null,
    because,
    path: `accepted-findings.${String(i)}`,
  }))
}

/**
 * The acceptance that a question or a finding falls under; undefined for none. `of` names it, or what it belongs to. Where levels are checked together,
 * a finding may be accepted where it stands (`level`), too, though it is about something in another level.
 */
export function acceptanceFor(
  all: readonly Acceptance[],
  rule: string,
  subject: string,
  level: string | null = null,
): Acceptance | undefined {
  const subjects = level === null ? [subject] : [subject, inLevel(level, levelIn(subject).name)]
  return all.find((one) => {
    const of = one.of ?? 'level'
    return one.rule === rule && subjects.some((about) => about === of || about.startsWith(`${of}/`))
  })
}

/** A finding for each acceptance that accepts nothing; where what it is about is open, that is not known. */
export function idleOnes(
  all: readonly Acceptance[],
  findings: readonly Placed[],
  questions: readonly Question[],
  levelOf: (finding: Placed) => string | null,
): Placed[] {
  return all.flatMap((one) => {
    const isItsOwn = (rule: string, subject: string, level: string | null = null): boolean =>
      acceptanceFor([one], rule, subject, level) !== undefined
    if (findings.some((finding) => isItsOwn(finding.rule.name, finding.subject, levelOf(finding)))) return []
    if (questions.some(({ rule, subject, answer }) => answer === 'undecided' && isItsOwn(rule, subject))) return []
    const facts = { accepted: one.rule, of: one.of } as const
    const asked = found('level', { path: one.path, facts, steps: [], grant: null })
    return asked.found.map((idle) => ({ rule: staleAcceptance, subject: one.of ?? 'level', found: idle, part: null }))
  })
}
