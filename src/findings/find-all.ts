import {
  type Answer,
  type Evidence,
  exploreFromStarts,
  type ExploreOptions,
  Interrupted,
  type Observation,
  type Progress,
  quietly,
  usualBudget,
} from '../explore/index.ts'
import { type Expanded, inLevel, levelIn, whyNotJoined } from '../interactables/index.ts'
import { type Project, type Stage, stageInSlices, startsOf } from '../play/index.ts'
import { rules } from './catalogue.ts'
import type { Placed } from './group/placed.ts'
import { inFileOrder } from './report/order.ts'
import type { Question } from './report/report.ts'
import { watchAll, watchTogether } from './requirements/watched.ts'
import { waysOutOf } from './requirements/ways-out.ts'
import { type Asked, type Context, isAskedOf, type Part, type Rule, type Surroundings } from './rule.ts'
import { isHelpedFromElsewhere, unreadIn, whatElsewhereDoes } from './shared/elsewhere.ts'
import { problemsOf } from './shared/names.ts'
import { ofPart } from './shared/whole.ts'

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

/** Why the levels of a project cannot be checked as one: in words, to stand after "because". Null: they can. */
export function whyNotTogether(project: Project, levels: Readonly<Record<string, Expanded>>): string | null {
  const unread = unreadIn({ project, levels })
  if (unread.length > 0) return `${unread.join(', ')} could not be read`
  const lost = Object.values(startsOf(project)).find(
    ({ level, place }) => place !== undefined && !levels[level]?.places.some(({ name }) => name === place),
  )
  if (lost) return `the project starts at the place ${lost.place!}, which is not in ${lost.level}`
  return whyNotJoined(Object.entries(levels).map(([name, expanded]) => ({ name, expanded })))
}

/** A project whose levels are checked together. */
export type Together = Omit<Surroundings, 'level' | 'because'>

/** What a level was found to be, or levels that are explored together, before it is put in order. */
export interface AllFound {
  readonly stage: Stage
  readonly evidence: Evidence
  /** What is looked at as a whole, and then, where that is several levels, each by itself. */
  readonly contexts: readonly Context[]
  readonly questions: Question[]
  /** In the order of the file. */
  readonly found: readonly Placed[]
  readonly isInterrupted: boolean
}

/** Explores a level, and asks every rule; `like`: a stage of nearly the same level, or, where all was searched already, of this one. */
export function* findAll(
  expanded: Expanded,
  options: CheckOptions & Pick<ExploreOptions, 'isBrief' | 'searched'>,
  together: Together | null,
  like: Stage | null = null,
): Generator<Progress, AllFound> {
  const budget = options.budget ?? usualBudget
  const laying = (): Progress => ({ doing: 'laying out', situations: 0, budget })
  // Interrupted before the ground is laid out, nothing is known yet: that is for the caller to say.
  const stage = options.searched?.stage ?? (yield* quietly(stageInSlices(expanded, like), laying))
  const observations: Observation[] = []
  for (const rule of rules) {
    const isAsked = !together || !rule.isByLevel
    observations.push(...(rule.observation && isAsked ? [rule.observation(stage)] : []))
    yield laying()
  }
  const explored = yield* exploreFromStarts(stage, { ...options, budget, observations })
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
 * What exploring a level by itself gave, where something elsewhere in its project makes a difference: what it shows is so, and what it
 * rules out is not known.
 */
function doubted(evidence: Evidence, stage: Stage, project: Surroundings): Evidence {
  const what = whatElsewhereDoes(stage, project)
  if (what === null) return evidence
  const { because = what } = project
  const why = `${what}, and this one was explored by itself${because === what ? '' : `, because ${because}`}`
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

/** What rules look at in a level by itself. */
function* contextOf(
  stage: Stage,
  evidence: Evidence,
  project: Surroundings | null,
  budget: number,
): Generator<Progress, Context> {
  // Of ways out nothing is asked where what other levels do may open one.
  const ways = isHelpedFromElsewhere({ stage, project }) ? 'none' : project ? 'rooms-and-level' : 'rooms'
  const { level, source } = stage.expanded
  const watching = yield* unlessInterrupted(evidence, watchAll(level, source, stage, budget, ways))
  return { of: 'level', stage, evidence, problems: problemsOf(stage, project), parts: [], project, watching }
}

/** What rules look at in several levels that were explored together: all of them, and then each by itself. */
function* contextsOf(
  stage: Stage,
  evidence: Evidence,
  together: Together,
  budget: number,
): Generator<Progress, Context[]> {
  const parts: Part[] = []
  for (const { name, expanded } of stage.expanded.joined!.parts) {
    const laying = (): Progress => ({ doing: 'laying out', situations: evidence.counts.situations, budget })
    parts.push({ name, stage: yield* quietly(partStage(expanded), laying) })
  }
  // Where it could not be told of goals whether they can be lost, it could not be told of these either, in about the same time once more.
  const isTooMuch = evidence.gap !== null && evidence.softLocks.some((answer) => answer?.answer === 'undecided')
  const none: Context['watching'] = new Map()
  const watching = isTooMuch ? none : yield* unlessInterrupted(evidence, waysOutOf(stage, parts, budget))
  const watched = isTooMuch ? none : yield* unlessInterrupted(evidence, watchTogether(stage, budget))
  const contexts: Context[] = [{ of: 'levels', stage, evidence, problems: [], parts, project: null, watching }]
  for (const { name, stage: own } of parts) {
    const project = { ...together, level: name }
    const ofLevel = [...watched, ...watching].flatMap(([key, one]) => {
      const { level, name: ownKey } = levelIn(key)
      return level === name ? [[ownKey, one] as const] : []
    })
    contexts.push({
      of: 'one-of-levels',
      stage: own,
      evidence: { ...evidence, dead: ofPart(stage, { name, stage: own }, evidence.dead) },
      problems: problemsOf(own, project),
      parts: [],
      project,
      watching: new Map(ofLevel),
    })
  }
  return contexts
}

/** Levels are laid out by themselves once, however often they are joined with others. */
const partStages = new WeakMap<Expanded, Stage>()

function* partStage(expanded: Expanded): Generator<undefined, Stage> {
  const known = partStages.get(expanded)
  if (known) return known
  const stage = yield* stageInSlices(expanded)
  partStages.set(expanded, stage)
  return stage
}

function* unlessInterrupted(
  { isInterrupted }: Evidence,
  work: Generator<Progress, Context['watching']>,
): Generator<Progress, Context['watching']> {
  if (isInterrupted) return new Map()
  try {
    return yield* work
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return new Map()
  }
}

/** Lets others have their turn where what is known is to be told in any case; false where that was asked for at once. */
export function* pause(progress: Progress): Generator<Progress, boolean> {
  try {
    yield progress
    return true
  } catch (error) {
    if (!(error instanceof Interrupted)) throw error
    return false
  }
}

/** Runs what is short, and needed for what is told in any case, also where it is interrupted. */
export function* toTheEnd<T>(
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
