import { explore, Interrupted, type Observation, type Progress, quietly, usualBudget } from '../explore/index.ts'
import { expandInSlices } from '../interactables/index.ts'
import { type Diagnostic, finish, type Level, type Source } from '../model/index.ts'
import { type Stage, stageInSlices } from '../play/index.ts'
import { acceptancesOf, idleOnes } from './report/accepted.ts'
import { rules } from './catalogue.ts'
import { foldFindings, type Folding, goalsFirst, type Placed } from './group/fold.ts'
import { feedbackTable } from './report/feedback-table.ts'
import { problemsOf } from './shared/names.ts'
import { inFileOrder, writtenUp } from './report/order.ts'
import type { FileReport, Question } from './report/report.ts'
import type { Asked, Context, Rule, Surroundings } from './rule.ts'

/** How a check may be limited, and what stands round the level. */
export interface CheckOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Whether findings are grouped under their causes, which takes longest; they are where it is left out. */
  readonly grouping?: boolean | undefined
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
  // Interrupted before the ground is laid out, nothing is known yet: that is for the caller to say.
  const stage = yield* quietly(stagedInSlices(level, source), () => ({
    doing: 'laying out',
    situations: 0,
    budget,
  }))
  const observations: Observation[] = []
  for (const rule of rules) {
    observations.push(...(rule.observation ? [rule.observation(stage)] : []))
    yield { doing: 'laying out', situations: 0, budget }
  }
  const evidence = yield* explore(stage, { ...options, budget, observations })
  const context: Context = { stage, evidence, problems: problemsOf(stage, project), project }
  const judging = (): Progress => ({ doing: 'judging', situations: evidence.counts.situations, budget })
  const asked: (Asked & { readonly rule: Rule })[] = []
  let { isInterrupted } = evidence
  for (const rule of rules) {
    const asking = rule.askInSlices?.(context)
    const interrupted = (): void => void (isInterrupted = true)
    for (const one of asking ? yield* toTheEnd(asking, judging, interrupted) : rule.ask(context))
      asked.push({ rule, ...one })
    if (!(yield* pause(judging()))) isInterrupted = true
  }
  const questions = asked.map(({ rule, subject, answer, why }): Question => ({ rule: rule.name, subject, answer, why }))
  const found = inFileOrder(
    source,
    asked.flatMap(({ rule, subject, found: all }) => all.map((one): Placed => ({ rule, subject, found: one }))),
  )
  const alone = { causes: found.map(() => null), isInterrupted }
  const grouping = groupedFindings({ rules, stage, evidence, project, budget }, found)
  const isAlone = isInterrupted || options.grouping === false
  const grouped = isAlone
    ? alone
    : yield* quietly(grouping, () => ({ doing: 'grouping' as const, situations: evidence.counts.situations, budget }))
  const causes = goalsFirst(found, grouped.causes)
  const acceptances = acceptancesOf(level)
  const idle = idleOnes(acceptances, found, questions)
  const { situations, moves, patches, replays } = evidence.counts
  yield* pause(judging())
  const written = writtenUp(stage, source, { found, causes, idle, acceptances })
  const feedback = yield* toTheEnd(feedbackTable(context), judging)
  return {
    version: 1,
    file: source.file ?? level.title,
    title: level.title,
    outcome: grouped.isInterrupted ? 'interrupted' : 'checked',
    diagnostics: [],
    questions,
    counts: { situations, moves, patches, replays, ...answerCounts(questions) },
    ...written,
    leftOut: 0,
    known: 0,
    feedback: feedback.map((one) => ({
      ...one,
      channels: one.channels.map(({ channel, texts }) => ({ channel, texts: [...texts] })),
    })),
    account: [...evidence.account],
  }
}

/** Spells a level out, and lays it out. */
function* stagedInSlices(level: Level, source: Source): Generator<undefined, Stage> {
  return yield* stageInSlices(yield* expandInSlices(level, source))
}

/** Lets others have their turn where what is known is to be told in any case; false where that was asked for at once. */
function* pause(progress: Progress): Generator<Progress, boolean> {
  try {
    yield progress
    return true
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return false
  }
}

/** Runs what is short, and needed for what is told in any case, also where it is interrupted. */
function* toTheEnd<T>(
  part: Generator<undefined, T>,
  tell: () => Progress,
  interrupted?: () => void,
): Generator<Progress, T> {
  for (;;) {
    const next = part.next()
    if (next.done) return next.value
    if (!(yield* pause(tell()))) interrupted?.()
  }
}

/** What each finding follows from; none from any other where that was not, or not all, found out. */
function* groupedFindings(
  folding: Folding,
  found: readonly Placed[],
): Generator<undefined, { readonly causes: readonly (number | null)[]; readonly isInterrupted: boolean }> {
  try {
    return { causes: yield* foldFindings(folding, found), isInterrupted: false }
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return { causes: found.map(() => null), isInterrupted: true }
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
  const counts = { situations: 0, moves: 0, patches: 0, replays: 0, found: 0, ruledOut: 0, undecided: 0 }
  return {
    version: 1,
    file,
    title: null,
    outcome,
    diagnostics: diagnostics.map((one) => ({ ...one })),
    questions: [],
    counts,
    findings: [],
    leftOut: 0,
    known: 0,
    accepted: [],
    feedback: [],
    account: [],
  }
}

/** How many questions have which answer. */
export function answerCounts(questions: readonly Question[]): { found: number; ruledOut: number; undecided: number } {
  const count = (answer: Question['answer']): number => questions.filter((one) => one.answer === answer).length
  return { found: count('found'), ruledOut: count('ruled-out'), undecided: count('undecided') }
}
