import { explore, type Progress, quietly, usualBudget } from '../explore/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { type Diagnostic, finish, type Level, type Source } from '../model/index.ts'
import { stageInSlices } from '../play/index.ts'
import { acceptancesOf, idleOnes } from './accepted.ts'
import { rules } from './catalogue.ts'
import { foldFindings, type Placed } from './fold.ts'
import { feedbackTable } from './moments.ts'
import { problemsOf } from './names.ts'
import { inFileOrder, writtenUp } from './order.ts'
import type { FileReport, Question } from './report.ts'
import type { Context, Surroundings } from './rule.ts'

/** How a check may be limited, and what stands round the level. */
export interface CheckOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Said of what is open because the budget was used up, instead of the budget. */
  readonly stoppedBy?: string | undefined
  /** The project that the level belongs to; it is checked alone where it is left out. */
  readonly project?: Surroundings | undefined
}

/**
 * Checks a level that was read: expands it, plays and explores it, asks every rule, and folds findings under their
 * causes. A generator that yields every few milliseconds, so that it can be paused or left.
 */
export function* check(level: Level, source: Source, options: CheckOptions = {}): Generator<Progress, FileReport> {
  const budget = options.budget ?? usualBudget
  const project = options.project ?? null
  const stage = yield* quietly(stageInSlices(expandLevel(level, source)), () => ({
    doing: 'laying out',
    situations: 0,
    budget,
  }))
  const lookouts = rules.flatMap((rule) => rule.lookout?.(stage) ?? [])
  const evidence = yield* explore(stage, { ...options, budget, lookouts })
  const context: Context = { stage, evidence, problems: problemsOf(stage, project), project }
  const asked = rules.flatMap((rule) => rule.ask(context).map((one) => ({ rule, ...one })))
  const questions = asked.map(({ rule, subject, answer, why }): Question => ({ rule: rule.name, subject, answer, why }))
  const found = inFileOrder(
    source,
    asked.flatMap(({ rule, subject, found: all }) => all.map((one): Placed => ({ rule, subject, found: one }))),
  )
  const causes = yield* quietly(foldFindings({ rules, stage, evidence, project, budget }, found), () => ({
    doing: 'judging',
    situations: evidence.counts.situations,
    budget,
  }))
  const acceptances = acceptancesOf(level)
  const idle = idleOnes(acceptances, found, questions)
  const { situations, moves, patches, replays } = evidence.counts
  return {
    version: 1,
    file: source.file ?? level.title,
    title: level.title,
    outcome: 'checked',
    diagnostics: [],
    questions,
    counts: { situations, moves, patches, replays, ...answerCounts(questions) },
    ...writtenUp(stage, source, { found, causes, idle, acceptances }),
    feedback: feedbackTable(context).map((one) => ({
      ...one,
      channels: one.channels.map(({ channel, texts }) => ({ channel, texts: [...texts] })),
    })),
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
    accepted: [],
    feedback: [],
  }
}

/** How many questions have which answer. */
export function answerCounts(questions: readonly Question[]): { found: number; absent: number; open: number } {
  const count = (answer: Question['answer']): number => questions.filter((one) => one.answer === answer).length
  return { found: count('found'), absent: count('absent'), open: count('open') }
}
