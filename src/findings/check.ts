import {
  type Evidence,
  explore,
  Interrupted,
  type Margin,
  marginOf,
  type Observation,
  planGoals,
  type Progress,
  quietly,
  usualBudget,
} from '../explore/index.ts'
import { expandInSlices } from '../interactables/index.ts'
import { type Diagnostic, finish, type Level, type Source } from '../model/index.ts'
import { departures, type Stage, stageInSlices } from '../play/index.ts'
import { watchAll } from './requirements/watched.ts'
import { acceptancesOf, idleOnes } from './report/accepted.ts'
import { rules } from './catalogue.ts'
import { type Trying, type TriedFix, smallestFixes } from './fixes/tried.ts'
import { byLostType, foldFindings, type Folding, goalsFirst } from './group/fold.ts'
import type { Placed } from './group/placed.ts'
import { feedbackTable } from './report/feedback-table.ts'
import { problemsOf } from './shared/names.ts'
import { toldSteps } from './report/told.ts'
import { inFileOrder, writtenUp } from './report/order.ts'
import type { FileReport, Question } from './report/report.ts'
import type { Asked, Context, Rule, Surroundings } from './rule.ts'

/** How a check may be limited, and what stands round the level. */
export interface CheckOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Whether findings are grouped under their causes, which takes longest; they are where it is left out. */
  readonly grouping?: boolean | undefined
  /** Whether no changes are tried with which goals that cannot be met, or can be lost, could be: that takes about as long again. */
  readonly quick?: boolean | undefined
  /** Whether it is found out how much time there is to spare on the way to each goal; it is not where that is left out. */
  readonly margins?: boolean | undefined
  /** The project that the level belongs to; it is checked alone where it is left out. */
  readonly project?: Surroundings | undefined
}

/**
 * Checks a level that was read: expands it, plays and explores it, asks every rule, groups findings under their causes, and tries changes
 * with which goals can be met. A generator that yields every few milliseconds, so that it can be paused or left.
 */
export function* check(level: Level, source: Source, options: CheckOptions = {}): Generator<Progress, FileReport> {
  const budget = options.budget ?? usualBudget
  const project = options.project ?? null
  const { stage, evidence, context, questions, found, isInterrupted } = yield* findAll(level, source, options)
  const { situations, moves, patches, replays } = evidence.counts
  const doing = (what: Progress['doing']): Progress => ({ doing: what, situations, budget })
  const isAlone = isInterrupted || options.grouping === false
  const grouping = groupedFindings({ rules, stage, evidence, project, budget }, found)
  const grouped = isAlone
    ? { causes: found.map(() => null), isInterrupted }
    : yield* quietly(grouping, () => doing('grouping'))
  const plain = byLostType(found, goalsFirst(found, grouped.causes))
  const trying: Trying = {
    stage,
    source,
    evidence,
    budget,
    *check(changed, from) {
      return (yield* silently(findAll(changed, from, options, stage))).found
    },
  }
  const isTried = !isAlone && options.quick !== true && !grouped.isInterrupted
  const tried = isTried ? yield* quietly(fixesOf(trying, found, plain), () => doing('trying fixes')) : noFixes
  const causes = led(plain, tried.fixes)
  const isAsked = options.margins === true && !isInterrupted
  const margins = isAsked ? yield* marginsOf(stage, budget) : { all: null, isInterrupted: false }
  const acceptances = acceptancesOf(level)
  const idle = idleOnes(acceptances, found, questions)
  const writing = writtenUp(stage, source, { found, causes, idle, acceptances, tried: tried.fixes })
  const written = yield* toTheEnd(writing, () => doing('judging'))
  const feedback = yield* toTheEnd(feedbackTable(context), () => doing('judging'))
  return {
    version: 1,
    file: source.file ?? level.title,
    title: level.title,
    outcome: grouped.isInterrupted || tried.isInterrupted || margins.isInterrupted ? 'interrupted' : 'checked',
    quick: options.quick === true,
    withoutLevels: options.project ? [] : [...new Set(departures(stage.expanded).map((one) => one.level))],
    diagnostics: [],
    questions,
    counts: { situations, moves, patches, replays, ...answerCounts(questions) },
    ...written,
    leftOut: 0,
    known: 0,
    margins: margins.all,
    feedback: feedback.map((one) => ({
      ...one,
      channels: one.channels.map(({ channel, texts }) => ({ channel, texts: [...texts] })),
    })),
    account: [...evidence.account],
  }
}

/** What a level was found to be, before it is put in order. */
interface AllFound {
  readonly stage: Stage
  readonly evidence: Evidence
  readonly context: Context
  readonly questions: Question[]
  /** In the order of the file. */
  readonly found: readonly Placed[]
  readonly isInterrupted: boolean
}

/** Explores a level, and asks every rule; `like`: a stage of nearly the same level. */
function* findAll(
  level: Level,
  source: Source,
  options: CheckOptions,
  like: Stage | null = null,
): Generator<Progress, AllFound> {
  const budget = options.budget ?? usualBudget
  const project = options.project ?? null
  // Interrupted before the ground is laid out, nothing is known yet: that is for the caller to say.
  const stage = yield* quietly(stagedInSlices(level, source, like), () => ({
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
  const watching = yield* watchedRequirements(level, source, stage, evidence, budget, project !== null)
  const context: Context = { stage, evidence, problems: problemsOf(stage, project), project, watching }
  const judging = (): Progress => ({ doing: 'judging', situations: evidence.counts.situations, budget })
  const asked: (Asked & { readonly rule: Rule })[] = []
  let isInterrupted = [evidence, ...[...watching.values()].map((one) => one.evidence)].some((one) => one.isInterrupted)
  for (const rule of rules) {
    const asking = rule.askInSlices?.(context)
    const interrupted = (): void => void (isInterrupted = true)
    for (const one of asking ? yield* toTheEnd(asking, judging, interrupted) : rule.ask(context))
      asked.push({ rule, ...one })
    if (!(yield* pause(judging()))) isInterrupted = true
  }
  const questions = asked.map(({ rule, subject, answer, why }): Question => ({ rule: rule.name, subject, answer, why }))
  const placed = asked.flatMap(({ rule, subject, found: all }) =>
    all.map((one): Placed => ({ rule, subject, found: one })),
  )
  return { stage, evidence, context, questions, found: inFileOrder(source, placed), isInterrupted }
}

/** How much time there is to spare on the way to each goal; where it was interrupted, on the way to some. */
function* marginsOf(
  stage: Stage,
  budget: number,
): Generator<Progress, { readonly all: FileReport['margins']; readonly isInterrupted: boolean }> {
  const goals = [...stage.expanded.goals.keys()]
  const all: NonNullable<FileReport['margins']> = []
  try {
    for (const one of yield* planGoals(stage, goals)) {
      const margin = yield* quietly(marginOf(stage, one), () => ({ doing: 'replaying', situations: 0, budget }))
      if (margin) all.push(toldMargin(stage, margin))
    }
    return { all, isInterrupted: false }
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return { all, isInterrupted: true }
  }
}

/** A margin in the words of a report: seconds, and what the step does. */
function toldMargin(
  stage: Stage,
  { goal, steps, spare, step, by }: Margin,
): NonNullable<FileReport['margins']>[number] {
  const told = toldSteps(stage, steps)
  return {
    goal,
    spare: spare === null ? null : spare / 1000,
    step,
    text: step === null ? null : told[step - 1]!.text,
    by: by && { interactable: by.interactable, transition: by.transition, given: by.given / 1000 },
    steps: told,
  }
}

/** Explores the level with what watches its requirements; nothing where it was interrupted. */
function* watchedRequirements(
  level: Level,
  source: Source,
  stage: Stage,
  { isInterrupted }: Evidence,
  budget: number,
  isInProject: boolean,
): Generator<Progress, Context['watching']> {
  if (isInterrupted) return new Map()
  try {
    return yield* watchAll(level, source, stage, budget, isInProject)
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return new Map()
  }
}

/** Changes that were tried for findings about goals, by the index of the finding. */
interface Fixes {
  readonly fixes: ReadonlyMap<number, readonly TriedFix[]>
  readonly isInterrupted: boolean
}

const noFixes: Fixes = { fixes: new Map(), isInterrupted: false }

/** Tries changes for each finding about a goal that does not follow from what has a fix of its own. */
function* fixesOf(
  trying: Trying,
  found: readonly Placed[],
  causes: readonly (number | null)[],
): Generator<undefined, Fixes> {
  const fixes = new Map<number, readonly TriedFix[]>()
  try {
    for (const [index, finding] of found.entries()) {
      const cause = causes[index] ?? null
      if (!finding.rule.isAboutGoals || (cause !== null && !found[cause]!.rule.isSign)) continue
      // What goes with a change that will do needs none of its own.
      if ([...fixes.values()].some((all) => all.some(({ gone }) => gone.has(index)))) continue
      const tried = yield* smallestFixes(trying, finding, found)
      if (tried.length > 0) fixes.set(index, tried)
    }
    return { fixes, isInterrupted: false }
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return { fixes, isInterrupted: true }
  }
}

/** Causes, with what goes with each change that lets a goal be met grouped under that goal. */
function led(causes: readonly (number | null)[], fixes: Fixes['fixes']): (number | null)[] {
  const now = [...causes]
  for (const [leader, all] of fixes) {
    const gone = now.flatMap((_, index) => (index !== leader && all.every((one) => one.gone.has(index)) ? [index] : []))
    for (const index of gone) if (!fixes.has(index)) now[index] = leader
    now[leader] = null
  }
  // What followed from something that follows now itself goes with it.
  return now.map((cause) => (cause !== null && now[cause] !== null ? now[cause]! : cause))
}

/** Runs work without telling how far it has come; what is thrown in ends it. */
function* silently<T>(work: Generator<unknown, T>): Generator<undefined, T> {
  for (;;) {
    const next = work.next()
    if (next.done) return next.value
    yield
  }
}

/** Spells a level out, and lays it out. */
function* stagedInSlices(level: Level, source: Source, like: Stage | null): Generator<undefined, Stage> {
  return yield* stageInSlices(yield* expandInSlices(level, source), like)
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
    quick: false,
    withoutLevels: [],
    diagnostics: diagnostics.map((one) => ({ ...one })),
    questions: [],
    counts,
    findings: [],
    leftOut: 0,
    known: 0,
    margins: null,
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
