import { Interrupted, type Margin, marginOf, planGoals, type Progress, quietly, usualBudget } from '../explore/index.ts'
import { type Expanded, expandInSlices, joinLevels } from '../interactables/index.ts'
import { type Diagnostic, finish, type Level, type Source } from '../model/index.ts'
import { departures, type Project, type Stage, startsOf } from '../play/index.ts'
import { acceptancesOf, idleOnes } from './report/accepted.ts'
import { rules } from './catalogue.ts'
import { type CheckOptions, findAll, type Together, toTheEnd, whyNotTogether } from './find-all.ts'
import { type Trying, type TriedFix, smallestFixes } from './fixes/tried.ts'
import { byLostType, foldFindings, type Folding, goalsFirst } from './group/fold.ts'
import type { Placed } from './group/placed.ts'
import { feedbackTable } from './report/feedback-table.ts'
import { toldSteps } from './report/told.ts'
import { unreadIn } from './shared/elsewhere.ts'
import { byLevel } from './report/by-level.ts'
import { homeOf, writtenUp } from './report/order.ts'
import type { FileReport, Question } from './report/report.ts'

/**
 * Checks a level that was read: expands it, plays and explores it, asks every rule, groups findings under their causes, and tries changes
 * with which goals can be met. A generator that yields every few milliseconds, so that it can be paused or left.
 */
export function* check(level: Level, source: Source, options: CheckOptions = {}): Generator<Progress, FileReport> {
  const laying = (): Progress => ({ doing: 'laying out', situations: 0, budget: options.budget ?? usualBudget })
  const expanded = yield* quietly(expandInSlices(level, source), laying)
  const [report] = yield* checkExpanded(expanded, options, null)
  return report!
}

/** Checks the levels of a project: as one, where they can be explored so, else one after the other. A report for each, in their order. */
export function* checkProject(
  project: Project,
  levels: Readonly<Record<string, Expanded>>,
  options: Omit<CheckOptions, 'project'> = {},
): Generator<Progress, FileReport[]> {
  const because = whyNotTogether(project, levels)
  if (because === null) return yield* checkTogether(project, levels, options)
  const reports: FileReport[] = []
  for (const [level, expanded] of Object.entries(levels)) {
    if (reports.some(({ outcome }) => outcome === 'interrupted')) {
      reports.push(emptyReport(expanded.source.file ?? expanded.level.title, 'interrupted', []))
      continue
    }
    const around = { ...options, project: { project, level, levels, because } }
    reports.push(...(yield* checkExpanded(expanded, around, null)))
  }
  return reports
}

/**
 * Checks the levels of a project as one, as `check` does a level; a report for each, in their order. Only for levels that can be joined.
 * What only one level can tell is asked of each by itself.
 */
function* checkTogether(
  project: Project,
  levels: Readonly<Record<string, Expanded>>,
  options: Omit<CheckOptions, 'project'> = {},
): Generator<Progress, FileReport[]> {
  const starts = Object.entries(startsOf(project)).map(([name, start]) => ({ name, ...start }))
  const parts = Object.entries(levels).map(([name, expanded]) => ({ name, expanded, remembered: project.levels[name] }))
  const joined = joinLevels(project.title, parts, starts)
  return yield* checkExpanded(joined, options, { project, levels })
}

function* checkExpanded(
  expanded: Expanded,
  options: CheckOptions,
  together: Together | null,
): Generator<Progress, FileReport[]> {
  const budget = options.budget ?? usualBudget
  const { stage, evidence, contexts, questions, found, isInterrupted } = yield* findAll(expanded, options, together)
  const { situations, moves, patches, replays } = evidence.counts
  const doing = (what: Progress['doing']): Progress => ({ doing: what, situations, budget })
  const isAlone = isInterrupted || options.grouping === false
  const grouping = groupedFindings({ rules, evidence, contexts, budget }, found)
  const grouped = isAlone
    ? { causes: found.map(() => null), isInterrupted }
    : yield* quietly(grouping, () => doing('grouping'))
  const plain = byLostType(found, goalsFirst(found, grouped.causes))
  const trying: Trying = {
    stage,
    evidence,
    budget,
    *check(changed, searched) {
      const around = together && { ...together, levels: levelsOf(changed) }
      const brief = { ...options, isBrief: true, searched: searched?.fineness === 'loose' ? searched : undefined }
      return (yield* silently(findAll(changed, brief, around, stage))).found
    },
  }
  const isTried = !isAlone && options.quick !== true && !grouped.isInterrupted
  const tried = isTried ? yield* quietly(fixesOf(trying, found, plain), () => doing('trying fixes')) : noFixes
  const causes = led(plain, tried.fixes)
  const isAsked = options.margins === true && !isInterrupted
  const margins = isAsked ? yield* marginsOf(stage, budget) : { all: null, isInterrupted: false }
  const acceptances = acceptancesOf(expanded)
  const idle = idleOnes(acceptances, found, questions, (one) => homeOf(expanded, one).level)
  const writing = writtenUp(stage, { found, causes, idle, acceptances, tried: tried.fixes })
  const written = yield* toTheEnd(writing, () => doing('judging'))
  const feedback = yield* toTheEnd(feedbackTable(contexts[0]!), () => doing('judging'))
  const report: FileReport = {
    version: 1,
    file: expanded.source.file ?? expanded.level.title,
    title: expanded.level.title,
    outcome: grouped.isInterrupted || tried.isInterrupted || margins.isInterrupted ? 'interrupted' : 'checked',
    quick: options.quick === true,
    withoutLevels: options.project ? [] : [...new Set(departures(expanded).map((one) => one.level))],
    unread: options.project ? unreadIn(options.project) : [],
    together: [],
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
  return byLevel(expanded, report)
}

/** The levels that a level is joined of, by name. */
function levelsOf({ joined }: Expanded): Record<string, Expanded> {
  return Object.fromEntries((joined?.parts ?? []).map(({ name, expanded }) => [name, expanded]))
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
    unread: [],
    together: [],
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
