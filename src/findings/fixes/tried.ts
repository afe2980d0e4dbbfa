import { somePart } from '../shared/conditions.ts'
import { type Evidence, type Loss, replay, type Search, WhatIfs } from '../../explore/index.ts'
import {
  type Check,
  type Expanded,
  expandInSlices,
  inLevel,
  joinedWith,
  levelIn,
  levelsNamed,
  loadLevel,
  ownPlace,
  unmarked,
} from '../../interactables/index.ts'
import { changedLines, changedValue, edited, type Level, type Source, valueSource } from '../../model/index.ts'
import { type Stage, stageInSlices } from '../../play/index.ts'
import type { Placed } from '../group/placed.ts'
import { goalAlreadyMet } from '../rules/goal-already-met.ts'
import { isLosing } from '../shared/losing.ts'
import { placesBehind } from '../shared/obstruction.ts'
import { guardEdits } from './guard-edits.ts'
import { type SmallEdit, smallEdits } from './small-edits.ts'

/** A change that was tried: with it the goal can be met, and kept, and nothing new is found. */
export interface TriedFix extends SmallEdit {
  /** What is not found any more, by its index. */
  readonly gone: ReadonlySet<number>
}

/** What changes are tried in: the level, what exploring it gave, and how a changed one is checked. */
export interface Trying {
  readonly stage: Stage
  readonly evidence: Evidence
  readonly budget: number
  /** All that is found in a level, each with its rule and its subject; `searched`: all situations of it. */
  readonly check: (level: Expanded, searched: Search | null) => Generator<undefined, readonly Placed[]>
}

/** So many changes are tried for one goal, at the most. */
const mostTries = 48

/** So many situations are looked at for one goal: times those of the level as it is; and so many more. */
const [mostTimes, more] = [3, 80_000]

/** So many that let the goal be met are checked in full, at the most. */
const mostChecks = 6

/**
 * The smallest changes with which a goal can be met, and is not lost, that is not so without; of those of a size, those that do away with
 * most else. They are tried one by one, in the order of their places. Empty where none of those that were tried will do. Pauses now and then.
 */
export function* smallestFixes(
  trying: Trying,
  finding: Placed,
  all: readonly Placed[],
): Generator<undefined, TriedFix[]> {
  const goal = goalOf(trying.stage, finding)
  if (goal < 0 || trying.evidence.gap !== null) return []
  const good: TriedFix[] = []
  let [tries, checks, least] = [0, 0, Infinity]
  let left = mostTimes * trying.evidence.counts.situations + more
  for (const small of candidates(trying, finding, goal)) {
    if (tries >= mostTries || checks >= mostChecks || left <= 0) break
    if (small.size > least) break
    yield
    const level = yield* levelWith(trying, small)
    if (!level) continue
    tries++
    const { isMet, situations, searched } = yield* lookedAt(trying, level, goal, finding)
    left -= situations
    if (!isMet) continue
    checks++
    left -= situations
    const after = yield* trying.check(level, searched)
    const gone = goneIn(all, after, finding)
    if (!gone?.has(all.indexOf(finding))) continue
    // What brings something to look at is as good as a larger change that brings nothing.
    const size = small.size + (bringsNothing(all, after) ? 0 : 1)
    least = Math.min(least, size)
    good.push({ ...small, size, gone })
  }
  const small = good.filter(({ size }) => size === least)
  const most = Math.max(...small.map(({ gone }) => gone.size))
  return small.filter(({ gone }) => gone.size === most)
}

/** The goal that a finding is about; -1: none. */
function goalOf({ expanded }: Stage, { rule, found }: Placed): number {
  const name = rule.unmet?.(found.facts)?.goal ?? rule.losing?.(found.facts).goal
  return expanded.goals.findIndex((goal) => goal.name === name)
}

/** What may be meant otherwise, the smallest first; of those of one size names first, in the order of their places. */
function candidates({ stage, evidence }: Trying, finding: Placed, goal: number): SmallEdit[] {
  const places = finding.rule.losing ? placesOfLoss(stage, finding) : placesBehind(stage, evidence, goal)
  const parts = [...new Set(places.map(partOf))]
  // A goal that asks for something else can be met, too; but it is rarely the goal that was mistaken.
  const isOfGoal = ({ edit }: SmallEdit): boolean => levelIn(edit.path).name.startsWith('goals.')
  const seen = new Set<string>()
  return (
    [...smallEditsIn(stage.expanded, parts), ...guardEdits(stage, safeguardsFor(evidence, finding, goal))]
      // What is asked for instead keeps a goal from being lost, too; but it is rarely that name which was mistaken.
      .map((small) =>
        small.isName && (finding.rule.losing || isOfGoal(small)) ? { ...small, size: small.size + 1 } : small,
      )
      .filter(({ edit }) => {
        const key = JSON.stringify(edit)
        const isNew = !seen.has(key) && levelsNamed(key).length <= 1
        seen.add(key)
        return isNew
      })
      // Of a size, names come first: they are mistaken most often.
      .sort((a, b) => a.size - b.size || Number(b.isName) - Number(a.isName))
  )
}

/** What the transition that loses a goal could ask for. */
function safeguardsFor({ losses }: Evidence, { found: { grant } }: Placed, goal: number): Loss | null {
  if (grant?.grant !== 'harmless') return null
  return losses[goal]?.find(({ row }) => row === grant.row) ?? null
}

/** The transitions of the steps that lose a goal, the last first, and what is asked for by the goal. */
function placesOfLoss(stage: Stage, { found }: Placed): string[] {
  const taken = replay(stage, found.steps).taken.map((row) => stage.tables.rows[row]!)
  const own = taken
    .reverse()
    .flatMap(({ machine, transition }) => [
      ...(transition.spends === null ? [] : [transition.spends]),
      transition.path,
      stage.expanded.interactables[machine]!.path,
    ])
  const blamed = found.grant?.grant === 'harmless' ? stage.tables.rows[found.grant.row]! : null
  return [...(found.path === null ? [] : [found.path]), ...own, ...(blamed ? placesAsking(stage, blamed) : [])]
}

/** Where something asks about what a transition changes: what it keeps from happening may be asked for the wrong way round. */
function placesAsking({ expanded }: Stage, { machine, transition }: Stage['tables']['rows'][number]): string[] {
  const flags = transition.changes.flatMap((change) => (change.kind === 'set' ? [change.flag] : []))
  const asks = (check: Check): boolean =>
    somePart(check, (part) => {
      switch (part.kind) {
        case 'flag':
          return flags.includes(part.flag)
        case 'state':
          return part.interactable === machine
        default:
          return false
      }
    })
  return expanded.interactables.flatMap(({ path: own, transitions }) =>
    transitions.flatMap(({ guard, when, path }) =>
      asks(guard) || (when.kind === 'becomes' && asks(when.check)) ? [path, own] : [],
    ),
  )
}

/** The part of a level that a path is looked at with: a whole instance or goal, a transition or a state of a type. */
function partOf(path: string): string {
  const keys = path.split('.')
  return keys.slice(0, levelIn(keys[0] ?? '').name === 'types' ? 4 : 2).join('.')
}

/** The small changes in parts of a level, or of the levels that are joined in it. */
function smallEditsIn(expanded: Expanded, parts: readonly string[]): SmallEdit[] {
  const { joined } = expanded
  if (!joined) return smallEdits(expanded, parts)
  return parts.flatMap((part) => {
    const { level, path } = ownPlace(expanded, part)
    const own = joined.parts.find(({ name }) => name === level)!
    return smallEdits(own.expanded, [path]).map((one) => ({
      ...one,
      edit: { ...one.edit, path: inLevel(own.name, one.edit.path) },
    }))
  })
}

/** Whether a change can be made in the text. */
function isWritable(source: Source, edit: SmallEdit['edit']): boolean {
  const text = edited(source, edit)
  return text !== null && changedLines(source.text, text) !== null
}

/** The level with a change, spelt out; null where it could not be used, or the change not be written. */
function* levelWith({ stage }: Trying, small: SmallEdit): Generator<undefined, Expanded | null> {
  const { expanded } = stage
  const { source, level: name } = ownPlace(expanded, small.edit.path)
  const edit = unmarked(small.edit)
  if (source.text !== '' && !isWritable(source, edit)) return null
  const own = expanded.joined?.parts.find((part) => part.name === name)?.expanded ?? expanded
  const value = changedValue(own.level, edit)
  // Its shape is that of the level but for the change, of which only the settings of types are not sure to fit.
  const level = value === undefined ? null : loadLevel(value as Level).value
  if (!level) return null
  const made = yield* expandInSlices(
    level,
    expanded.joined ? { ...valueSource(level), file: source.file } : valueSource(level),
  )
  return expanded.joined ? joinedWith(expanded.joined, name!, made) : made
}

/** Whether a goal can be met in a level, and is not lost as a finding says. */
function* lookedAt(
  trying: Trying,
  level: Expanded,
  goal: number,
  { rule, found }: Placed,
): Generator<undefined, { readonly isMet: boolean; readonly situations: number; readonly searched: Search | null }> {
  const { evidence } = trying
  const budget = Math.min(trying.budget, mostTimes * evidence.counts.situations + more)
  const stage = yield* stageInSlices(level, trying.stage)
  const whatIfs = new WhatIfs(stage, evidence.fineness, budget)
  const now = yield* whatIfs.possible({ stage, free: null, undone: null, observations: [], wantsStuck: false })
  if (!now) return { isMet: false, situations: budget, searched: null }
  const losing = rule.losing?.(found.facts)
  const isLost = losing !== undefined && isLosing(stage, now, losing)
  return { isMet: now.goals[goal]! && !isLost, situations: now.situations, searched: whatIfs.plain }
}

/** Whether nothing is found with a change that is not found without it, but for advice. */
function bringsNothing(all: readonly Placed[], after: readonly Placed[]): boolean {
  const known = new Set(all.map(nameOf))
  return after.every((one) => one.rule.severity === 'advice' || known.has(nameOf(one)))
}

/**
 * What is found without a change and not with it; null where the change brings another error. That a goal can be lost then that
 * could never be met before is none.
 */
function goneIn(all: readonly Placed[], after: readonly Placed[], { rule, found }: Placed): Set<number> | null {
  const known = new Set(all.map(nameOf))
  const unmet = rule.unmet?.(found.facts)?.goal
  const isNew = (one: Placed): boolean =>
    (one.rule.severity === 'error' || one.rule === goalAlreadyMet) &&
    !known.has(nameOf(one)) &&
    (unmet === undefined || one.rule.losing?.(one.found.facts).goal !== unmet)
  if (after.some(isNew)) return null
  const left = new Set(after.map(nameOf))
  return new Set([...all.keys()].filter((index) => !left.has(nameOf(all[index]!))))
}

function nameOf({ rule, subject }: Placed): string {
  return `${rule.name} ${subject}`
}
