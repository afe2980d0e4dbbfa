import { explore, type Observation, type Progress, quietly, usualBudget } from '../explore/index.ts'
import { momentObservation, focusedObservation, refusalObservation } from '../findings/index.ts'
import type { Source } from '../model/index.ts'
import { runWalkthrough, type Stage, type Walkthrough, type WalkthroughStep } from '../play/index.ts'
import { Exercised } from './exercised.ts'
import { type FilledIn, fillIn } from './fill.ts'
import { type CoverKind, coverKinds, type Item, itemsOf } from './items.ts'

export type { FilledIn } from './fill.ts'
export { type CoverKind, coverKinds } from './items.ts'

/** Something that can happen in a level, and which walkthroughs come to it. */
export interface CoverItem {
  readonly kind: CoverKind
  readonly interactable: string
  /** In words, without the interactable. */
  readonly text: string
  /** Whether it can happen: a play has shown it, or that is undecided. */
  readonly possible: 'yes' | 'undecided'
  /** The walkthroughs that exercise it, counted from 0, as they were given. */
  readonly by: readonly number[]
}

/** How many things of a kind there are, as line coverage counts lines. */
export interface CoverTotal {
  /** Those that can happen: a play has shown each. */
  readonly possible: number
  /** Of these, those that some walkthrough exercises. */
  readonly exercised: number
  /** Those of which it is undecided whether they can happen. */
  readonly undecided: number
}

/** What walkthroughs exercise of all that can happen in a level. */
export interface Cover {
  readonly version: 1
  readonly title: string
  readonly totals: Readonly<Record<CoverKind, CoverTotal>>
  /** By interactable, in file order. */
  readonly items: readonly CoverItem[]
  readonly walkthroughs: readonly { readonly title: string; readonly passed: boolean }[]
  /** Why not everything was explored, so that more may be possible; null where it was. */
  readonly gap: string | null
}

/** What walkthroughs exercise, and others that exercise more. */
export interface CoverResult {
  readonly cover: Cover
  /** Walkthroughs for what none of those given exercises; empty where they were not asked for, or none was found. */
  readonly filled: readonly FilledIn[]
  /** What none exercises even so. */
  readonly left: readonly CoverItem[]
}

/** How coverage is told. */
export interface CoverOptions {
  /** The most situations that are looked at; 2,000,000 where it is left out. */
  readonly budget?: number | undefined
  /** Whether walkthroughs are looked for that exercise the rest. */
  readonly fill?: boolean | undefined
}

/**
 * Plays walkthroughs in a level, and tells which states, transitions, refusals and feedback they exercise of those that are
 * possible. What is ruled out counts as nothing, whatever a walkthrough with test-only steps does. With `fill`, it finds few
 * walkthroughs for the rest. A generator that yields every few milliseconds.
 */
export function* coverLevel(
  stage: Stage,
  walkthroughs: readonly { readonly walkthrough: Walkthrough; readonly source: Source }[],
  options: CoverOptions = {},
): Generator<Progress, CoverResult> {
  const budget = options.budget ?? usualBudget
  const observations: Observation[] = [refusalObservation(stage), focusedObservation(stage), momentObservation(stage)]
  const evidence = yield* explore(stage, { budget, observations })
  const telling = (): Progress => ({ doing: 'replaying', situations: evidence.counts.situations, budget })
  const played: Played[] = []
  for (const { walkthrough, source } of walkthroughs) {
    yield telling()
    const exercised = new Exercised(stage)
    const { title, passed } = runWalkthrough(stage, walkthrough, source, (play) => {
      exercised.look(play)
    })
    played.push({ title, passed, keys: exercised.keys, isHelped: walkthrough.steps.some(isHelp) })
  }
  const items = yield* quietly(itemsOf(stage, evidence), telling)
  const all = items.map((item) => coverItem(item, played))
  const totals = Object.fromEntries(coverKinds.map((kind) => [kind, totalOf(all.filter((one) => one.kind === kind))]))
  const cover: Cover = {
    version: 1,
    title: stage.expanded.level.title,
    totals: totals as Record<CoverKind, CoverTotal>,
    items: all,
    walkthroughs: played.map(({ title, passed }) => ({ title, passed })),
    gap: evidence.gap,
  }
  const rest = items.filter((_, i) => all[i]!.by.length === 0)
  const filled = options.fill ? yield* quietly(fillIn(stage, evidence, rest), telling) : []
  const isLeft = ({ key }: Item, i: number): boolean =>
    all[i]!.by.length === 0 && !filled.some(({ keys }) => keys.has(key))
  return { cover, filled, left: all.filter((_, i) => isLeft(items[i]!, i)) }
}

/** A walkthrough that was played. */
interface Played {
  readonly title: string
  readonly passed: boolean
  /** The keys of what it exercises. */
  readonly keys: ReadonlySet<string>
  /** Whether it does what no player can. */
  readonly isHelped: boolean
}

/** Whether a step does what no player can: gives an item, or sets something. */
function isHelp(step: WalkthroughStep): boolean {
  return typeof step !== 'string' && (step.give ?? step.remove ?? step.set ?? step.put) !== undefined
}

function coverItem({ kind, key, interactable, text, isPossible }: Item, played: readonly Played[]): CoverItem {
  const by = played.flatMap(({ keys }, i) => (keys.has(key) ? [i] : []))
  const isShown = isPossible || by.some((i) => !played[i]!.isHelped)
  return { kind, interactable, text, possible: isShown ? 'yes' : 'undecided', by }
}

function totalOf(items: readonly CoverItem[]): CoverTotal {
  const possible = items.filter((one) => one.possible === 'yes')
  return {
    possible: possible.length,
    exercised: possible.filter(({ by }) => by.length > 0).length,
    undecided: items.length - possible.length,
  }
}
