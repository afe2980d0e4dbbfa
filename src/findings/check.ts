import { explore, type Progress, quietly, usualBudget } from '../explore/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { type Diagnostic, finish, type Level, type Place, type Source } from '../model/index.ts'
import { type Stage, stageInSlices } from '../play/index.ts'
import { rules } from './catalogue.ts'
import { foldFindings } from './fold.ts'
import type { FileReport, Finding, Question } from './report.ts'
import type { Context, Found, Rule } from './rule.ts'
import { toldSteps } from './told.ts'
import { findingText } from './words.ts'

/** How a check may be limited. */
export interface CheckOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Said of what is open because the budget was used up, instead of the budget. */
  readonly stoppedBy?: string | undefined
}

/**
 * Checks a level that was read: expands it, plays and explores it, asks every rule, and folds findings under their
 * causes. A generator that yields every few milliseconds, so that it can be paused or left.
 */
export function* check(level: Level, source: Source, options: CheckOptions = {}): Generator<Progress, FileReport> {
  const budget = options.budget ?? usualBudget
  const stage = yield* quietly(stageInSlices(expandLevel(level, source)), () => ({
    doing: 'laying out',
    situations: 0,
    budget,
  }))
  const evidence = yield* explore(stage, { ...options, budget })
  const problems = [...stage.expanded.problems, ...stage.space.layout.problems]
  const context: Context = { stage, evidence, problems }
  const asked = rules.flatMap((rule) => rule.ask(context).map((one) => ({ rule, ...one })))
  const found = inFileOrder(
    source,
    asked.flatMap(({ rule, subject, found: all }) => all.map((one) => ({ rule, subject, found: one }))),
  )
  const causes = yield* quietly(
    foldFindings(
      stage,
      evidence,
      found.map((one) => one.found),
      budget,
    ),
    () => ({ doing: 'judging', situations: evidence.counts.situations, budget }),
  )
  const questions = asked.map(({ rule, subject, answer, why }): Question => ({ rule: rule.name, subject, answer, why }))
  const { situations, moves, patches, replays } = evidence.counts
  return {
    version: 1,
    file: source.file ?? level.title,
    title: level.title,
    outcome: 'checked',
    diagnostics: [],
    questions,
    counts: { situations, moves, patches, replays, ...answerCounts(questions) },
    findings: foldedFindings(stage, source, found, causes),
  }
}

/** Checks a level to the end, without a pause. */
export function checkNow(level: Level, source: Source, options: CheckOptions = {}): FileReport {
  return finish(check(level, source, options))
}

/** A report for a file that could not be used, or whose check was interrupted. */
export function emptyReport(
  file: string,
  outcome: 'unusable' | 'interrupted',
  diagnostics: readonly Diagnostic[],
): FileReport {
  const counts = { situations: 0, moves: 0, patches: 0, replays: 0, found: 0, absent: 0, open: 0 }
  return {
    version: 1,
    file,
    title: null,
    outcome,
    diagnostics: diagnostics.map((one) => ({ ...one })),
    questions: [],
    counts,
    findings: [],
  }
}

interface Placed {
  readonly rule: Rule
  readonly subject: string
  readonly found: Found
}

/** Findings by where they stand in the file; those of one place in the order of the rules. */
function inFileOrder(source: Source, found: readonly Placed[]): Placed[] {
  const order = new Map(pathsInOrder(source.value, '').map((path, i) => [path, i]))
  const rank = ({ found: { path } }: Placed): number => {
    for (let at = path ?? ''; at !== ''; at = at.slice(0, Math.max(0, at.lastIndexOf('.')))) {
      const known = order.get(at)
      if (known !== undefined) return known
    }
    return -1
  }
  return [...found].sort((a, b) => rank(a) - rank(b))
}

function pathsInOrder(value: unknown, path: string): string[] {
  if (typeof value !== 'object' || value === null) return [path]
  const inner = Object.entries(value).flatMap(([key, part]) => pathsInOrder(part, path === '' ? key : `${path}.${key}`))
  return [path, ...inner]
}

function foldedFindings(
  stage: Stage,
  source: Source,
  found: readonly Placed[],
  causes: readonly (number | null)[],
): Finding[] {
  return found.flatMap((one, index): Finding[] => {
    if (causes[index] !== null) return []
    const follows = found.filter((_, other) => rootOf(causes, other) === index && other !== index)
    return [
      {
        ...summary(source, one),
        steps: toldSteps(stage, one.found.steps),
        short: one.found.short ?? false,
        follows: follows.map((other) => summary(source, other)),
      },
    ]
  })
}

/** The finding that stands for this one in the report. */
function rootOf(causes: readonly (number | null)[], index: number): number {
  let at = index
  for (let next = causes[at]; next !== null && next !== undefined; next = causes[at]) at = next
  return at
}

function summary(source: Source, { rule, subject, found }: Placed): Omit<Finding, 'steps' | 'short' | 'follows'> {
  const place: Place | null = found.path === null ? null : source.place(found.path)
  return { rule: rule.name, severity: rule.severity, subject, place, message: findingText(found.facts) }
}

function answerCounts(questions: readonly Question[]): { found: number; absent: number; open: number } {
  const count = (answer: Question['answer']): number => questions.filter((one) => one.answer === answer).length
  return { found: count('found'), absent: count('absent'), open: count('open') }
}
