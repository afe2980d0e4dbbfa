import {
  type Answer,
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
import { type Expanded, expandInSlices, inLevel, joinLevels, whyNotJoined } from '../interactables/index.ts'
import { type Diagnostic, finish, type Level, type Source } from '../model/index.ts'
import { departures, type Project, type Stage, stageInSlices, startsOf } from '../play/index.ts'
import { watchAll, type WaysOut } from './requirements/watched.ts'
import { acceptancesOf, idleOnes } from './report/accepted.ts'
import { rules } from './catalogue.ts'
import { type Trying, type TriedFix, smallestFixes } from './fixes/tried.ts'
import { byLostType, foldFindings, type Folding, goalsFirst } from './group/fold.ts'
import type { Part, Placed } from './group/placed.ts'
import { feedbackTable } from './report/feedback-table.ts'
import { problemsOf } from './shared/names.ts'
import { itemsAskedFor } from './shared/items.ts'
import { areGivenElsewhere, isHelpedFromElsewhere } from './shared/ways-out.ts'
import { toldSteps } from './report/told.ts'
import { byLevel } from './report/by-level.ts'
import { homeOf, inFileOrder, writtenUp } from './report/order.ts'
import type { FileReport, Question } from './report/report.ts'
import { type Asked, type Context, isAskedOf, type Rule, type Surroundings } from './rule.ts'

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
  if (whyNotTogether(project, levels) === null) return yield* checkTogether(project, levels, options)
  const reports: FileReport[] = []
  for (const [level, expanded] of Object.entries(levels)) {
    if (reports.some(({ outcome }) => outcome === 'interrupted')) {
      reports.push(emptyReport(expanded.source.file ?? expanded.level.title, 'interrupted', []))
      continue
    }
    const around = { ...options, project: { project, level, levels } }
    reports.push(...(yield* checkExpanded(expanded, around, null)))
  }
  return reports
}

/**
 * Checks the levels of a project as one, as `check` does a level; a report for each, in their order. Only for levels that can be joined.
 * What only one level can tell is asked of each by itself.
 */
export function* checkTogether(
  project: Project,
  levels: Readonly<Record<string, Expanded>>,
  options: Omit<CheckOptions, 'project'> = {},
): Generator<Progress, FileReport[]> {
  const [start] = Object.values(startsOf(project))
  const parts = Object.entries(levels).map(([name, expanded]) => ({ name, expanded }))
  const joined = joinLevels(project.title, parts, start!)
  return yield* checkExpanded(joined, options, { project, levels })
}

/** Why the levels of a project cannot be checked as one: in words, to stand after "because". Null: they can. */
export function whyNotTogether(project: Project, levels: Readonly<Record<string, Expanded>>): string | null {
  const [first, ...others] = Object.values(startsOf(project))
  if (others.length > 0) return 'it has several starts'
  // A play that starts at a place comes into everything there; explored levels begin with somebody who stands there.
  if (first?.place !== undefined) return 'it starts at a place'
  const forgetful = Object.entries(project.levels).find(
    ([, { remembers, except = [] }]) => remembers === 'nothing' || except.length > 0,
  )
  if (forgetful) return `${forgetful[0]} is not as it was left when one returns`
  return whyNotJoined(Object.entries(levels).map(([name, expanded]) => ({ name, expanded })))
}

/** A project whose levels are checked together. */
type Together = Omit<Surroundings, 'level'>

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
    *check(changed) {
      return (yield* silently(findAll(changed, options, together && { ...together, levels: levelsOf(changed) }, stage)))
        .found
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

/** What a level was found to be, or levels that are explored together, before it is put in order. */
interface AllFound {
  readonly stage: Stage
  readonly evidence: Evidence
  /** What is looked at as a whole, and then, where that is several levels, each by itself. */
  readonly contexts: readonly Context[]
  readonly questions: Question[]
  /** In the order of the file. */
  readonly found: readonly Placed[]
  readonly isInterrupted: boolean
}

/** Explores a level, and asks every rule; `like`: a stage of nearly the same level. */
function* findAll(
  expanded: Expanded,
  options: CheckOptions,
  together: Together | null,
  like: Stage | null = null,
): Generator<Progress, AllFound> {
  const budget = options.budget ?? usualBudget
  const laying = (): Progress => ({ doing: 'laying out', situations: 0, budget })
  // Interrupted before the ground is laid out, nothing is known yet: that is for the caller to say.
  const stage = yield* quietly(stageInSlices(expanded, like), laying)
  const observations: Observation[] = []
  for (const rule of rules) {
    const isAsked = !together || !rule.isByLevel
    observations.push(...(rule.observation && isAsked ? [rule.observation(stage)] : []))
    yield laying()
  }
  const explored = yield* explore(stage, { ...options, budget, observations })
  const evidence = options.project ? doubted(explored, stage, options.project) : explored
  const contexts = together
    ? yield* contextsOf(stage, evidence, together, budget)
    : [yield* contextOf(stage, evidence, options.project ?? null, budget)]
  const judging = (): Progress => ({ doing: 'judging', situations: evidence.counts.situations, budget })
  const asked: (Asked & { readonly rule: Rule; readonly part: Part | null })[] = []
  const watched = contexts.flatMap(({ watching }) => [...watching.values()])
  let isInterrupted = [evidence, ...watched.map((one) => one.evidence)].some((one) => one.isInterrupted)
  const interrupted = (): void => void (isInterrupted = true)
  for (const rule of rules) {
    for (const context of contexts) {
      if (!isAskedOf(rule, context)) continue
      const part = context.of === 'one-of-levels' ? { name: context.project!.level, stage: context.stage } : null
      const asking = rule.askInSlices?.(context)
      for (const one of asking ? yield* toTheEnd(asking, judging, interrupted) : rule.ask(context))
        asked.push({ rule, part, ...one, subject: part ? inLevel(part.name, one.subject) : one.subject })
    }
    if (!(yield* pause(judging()))) isInterrupted = true
  }
  const questions = asked.map(({ rule, subject, answer, why }): Question => ({ rule: rule.name, subject, answer, why }))
  const placed = asked.flatMap(({ rule, subject, found: all, part }) =>
    all.map((one): Placed => ({ rule, subject, found: one, part })),
  )
  return { stage, evidence, contexts, questions, found: inFileOrder(expanded, placed), isInterrupted }
}

/**
 * What exploring a level by itself gave, where other levels of its project give what is asked for in it: what it shows is so, and what it
 * rules out is not known.
 */
function doubted(evidence: Evidence, stage: Stage, project: Surroundings): Evidence {
  const asked = itemsAskedFor(stage.expanded).flatMap(({ item, isWanted }) => (isWanted ? [item] : []))
  if (!areGivenElsewhere(stage.expanded, asked, project)) return evidence
  const reason = whyNotTogether(project.project, project.levels)
  const how = reason === null ? 'was looked at by itself' : `was explored by itself, because ${reason}`
  const why = `other levels give what is asked for here, and this one ${how}`
  const open = <T extends Answer | null>(answer: T): Answer | T =>
    answer?.answer === 'found' ? { answer: 'undecided', why } : answer
  return {
    ...evidence,
    dead: evidence.dead.map((answer) => open(answer) ?? answer),
    unreachable: evidence.unreachable.map((answer) => open(answer) ?? answer),
    softLocks: evidence.softLocks.map(open),
    losses: evidence.losses.map(() => []),
    gap: evidence.gap ?? why,
    possible: null,
  }
}

/** What rules look at in one level. */
function* contextOf(
  stage: Stage,
  evidence: Evidence,
  project: Surroundings | null,
  budget: number,
): Generator<Progress, Context> {
  // Of ways out nothing is asked where another level may give what opens one.
  const ways = isHelpedFromElsewhere({ stage, project }) ? 'none' : project ? 'rooms-and-level' : 'rooms'
  const known = partsWatched.get(stage)
  const isKnown = known?.budget === budget && known.ways === ways
  const watching = isKnown ? known.watching : yield* watchedRequirements(stage, evidence, budget, ways)
  const isWhole = ![...watching.values()].some((one) => one.evidence.isInterrupted) && !evidence.isInterrupted
  if (isWhole && project) partsWatched.set(stage, { budget, ways, watching })
  return { of: 'level', stage, evidence, problems: problemsOf(stage, project), project, watching }
}

/** What rules look at in several levels that were explored together: all of them, and then each by itself. */
function* contextsOf(
  stage: Stage,
  evidence: Evidence,
  together: Together,
  budget: number,
): Generator<Progress, Context[]> {
  const contexts: Context[] = [{ of: 'levels', stage, evidence, problems: [], project: null, watching: new Map() }]
  for (const { name, expanded } of stage.expanded.joined!.parts) {
    const laying = (): Progress => ({ doing: 'laying out', situations: evidence.counts.situations, budget })
    const own = yield* quietly(partStage(expanded), laying)
    contexts.push({ ...(yield* contextOf(own, evidence, { ...together, level: name }, budget)), of: 'one-of-levels' })
  }
  return contexts
}

/** Levels are laid out by themselves once, and watched once, however often they are joined with others. */
const partStages = new WeakMap<Expanded, Stage>()
const partsWatched = new WeakMap<
  Stage,
  { readonly budget: number; readonly ways: WaysOut; readonly watching: Context['watching'] }
>()

function* partStage(expanded: Expanded): Generator<undefined, Stage> {
  const known = partStages.get(expanded)
  if (known) return known
  const stage = yield* stageInSlices(expanded)
  partStages.set(expanded, stage)
  return stage
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
  stage: Stage,
  { isInterrupted }: Evidence,
  budget: number,
  ways: WaysOut,
): Generator<Progress, Context['watching']> {
  if (isInterrupted) return new Map()
  const { level, source } = stage.expanded
  try {
    return yield* watchAll(level, source, stage, budget, ways)
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
