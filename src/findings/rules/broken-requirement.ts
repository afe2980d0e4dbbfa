import { inLevel, type PlacedRequirement } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { brokenKey, lateKey } from '../requirements/watched.ts'
import { type Asked, type Context, found, type Found, type Rule, ruledOut, undecided, witnessed } from '../rule.ts'
import { somePart } from '../shared/conditions.ts'
import { whatElsewhereDoes } from '../shared/elsewhere.ts'
import { goalText } from '../shared/texts.ts'
import { rowSubject } from '../shared/rows.ts'
import { setOffBy } from '../shared/steps.ts'

const start = 'broken '

/** What is known of a finding of this rule. */
export interface BrokenRequirementFacts {
  readonly requirement: string
  readonly title: string | null
  readonly kind: PlacedRequirement['kind']
  /** Who it is to be brought about against, whatever they do; null: nobody. */
  readonly against: PlacedRequirement['against']
  /** For a requirement about a time: in how many seconds. */
  readonly seconds: number | null
  /** What breaks it: a transition, or somebody who walks; null where nothing does: it is broken by the time, or from the start on. */
  readonly by: string | null
  readonly isAtStart: boolean
}

/** Something that is required of every play does not hold in one. */
export const brokenRequirement: Rule<BrokenRequirementFacts> = {
  name: 'broken-requirement',
  severity: 'error',
  asksBoth: true,
  observation(stage) {
    const { requirements } = stage.expanded
    const isBroken = (index: number, regs: Int32Array): boolean =>
      stage.tables.requirements[index]!(regs, 0) === (requirements[index]!.kind === 'never')
    const plain = requirements.flatMap(({ name, kind }, index) =>
      kind === 'never' || kind === 'always' ? [{ key: start + name, index }] : [],
    )
    return {
      isFault: () => true,
      onSituation: plain.map(({ key, index }) => (regs, see) => {
        if (isBroken(index, regs)) see(key)
      }),
      isShown: (key, play) => isBroken(plain.find((one) => one.key === key)!.index, play.registers()),
    }
  },
  ask(context) {
    return context.stage.expanded.requirements.flatMap((one) => {
      // Of what asks for something that is not there nothing is known.
      if (context.problems.some((problem) => problem.path.startsWith(`${one.path}.`))) return []
      const isPlain = one.kind === 'never' || one.kind === 'always'
      // Of levels that were explored together, what is watched is watched in each by itself.
      if (context.of !== 'level' && isPlain === (context.of === 'one-of-levels')) return []
      if (isPlain) return [askPlain(context, one)]
      const asked = one.kind === 'can-still' ? askLasting(context, one) : askWatched(context, one)
      // What is broken in a play of a level by itself is broken; what is lost there may be had again, and what is not may come.
      const isSure = context.of === 'one-of-levels' || (asked.answer === 'found' && one.kind !== 'can-still')
      const open = isSure ? null : whyOpen(context)
      return [open === null ? asked : undecided(one.name, open)]
    })
  },
  says(facts) {
    const { requirement, title, kind, against, by, isAtStart, seconds } = facts
    const how = isAtStart
      ? 'it is broken before anybody has done anything'
      : by === null
        ? 'it comes to be broken'
        : `${by} can break it`
    const what = {
      never: 'what must never be so comes to be so',
      before: 'what must not be so until then comes to be so before',
      always: 'what must always be so is so no longer',
      'can-still':
        against === null
          ? 'from then on nobody can bring it about any more'
          : `from then on nobody else can bring it about, as long as the ${against} does nothing more`,
      within: `what must follow has not come within ${String(seconds)} s`,
    }[kind]
    return `The requirement ${goalText({ goal: requirement, title })} does not hold: ${how}; ${what}.`
  },
  fix({ kind, against }) {
    if (kind === 'within') return 'Let it come by itself, or sooner; or allow more time in the requirement.'
    if (kind === 'can-still' && against !== null)
      return `Let players undo what the ${against} does, or keep it from doing so; or ask for less in the requirement.`
    if (kind === 'can-still') return 'Keep a way back open, or ask for less in the requirement.'
    return 'Let a guard keep what breaks it from happening, or ask for less in the requirement.'
  },
}

/** Why what a level by itself rules out may be so in its project; null: nothing elsewhere makes a difference to it. */
function whyOpen(context: Context): string | null {
  const what = context.project && whatElsewhereDoes(context.stage, context.project)
  return what && `${what}, and it was asked of this one by itself`
}

function factsOf({ name, title, kind, against, ms }: PlacedRequirement): BrokenRequirementFacts {
  return {
    requirement: name,
    title,
    kind,
    against,
    seconds: ms === null ? null : ms / 1000,
    by: null,
    isAtStart: false,
  }
}

/** What must never be so, or always: seen in situations. */
function askPlain(context: Context, one: PlacedRequirement): Asked<BrokenRequirementFacts> {
  return brokenBy(
    context.stage,
    witnessed(context, one.name, [start + one.name], () => ({ path: one.path, facts: factsOf(one), grant: null })),
  )
}

/** What is watched: an order, or a time. */
function askWatched(context: Context, one: PlacedRequirement): Asked<BrokenRequirementFacts> {
  const watching = context.watching.get(one.name)
  if (!watching) return undecided(one.name, context.evidence.gap ?? interrupted)
  const { stage, watcher } = watching
  const isOne = stage.expanded.characters.filter(({ role }) => role === 'player').length === 1
  if (!isOne && one.conditions.some(({ check }) => asksActor(check))) {
    return undecided(one.name, 'it asks what one of several players carries, or is remembered of')
  }
  const seen = (key: string): Asked<BrokenRequirementFacts> =>
    witnessed(watching, one.name, [key + one.name], () => ({
      path: one.path,
      facts: factsOf(one),
      isWatched: true,
      grant: null,
    }))
  const broken = seen(brokenKey)
  const asked = broken.answer === 'found' ? broken : seen(lateKey)
  return one.kind === 'within' ? asked : brokenBy(stage, asked, watcher)
}

/** What must stay within reach: lost as goals are, but asked about again and again. */
function askLasting(context: Context, one: PlacedRequirement): Asked<BrokenRequirementFacts> {
  const watching = context.watching.get(one.name)
  if (!watching) return undecided(one.name, context.evidence.gap ?? interrupted)
  const { evidence, stage: own } = watching
  const isJoined = context.of === 'one-of-levels'
  const named = isJoined ? inLevel(context.project!.level, one.name) : one.name
  const goal = own.expanded.goals.findIndex(({ name }) => name === named)
  const never = evidence.unreachable[goal]
  // Where levels are joined, it is broken once somebody has come to the level of which it is required.
  if (never?.answer === 'found' && !isJoined) {
    const facts = { ...factsOf(one), isAtStart: true }
    return found(one.name, { path: one.path, facts, steps: [], isWatched: true, grant: null })
  }
  const answer = evidence.softLocks[goal]
  if (answer?.answer === 'ruled-out') return ruledOut(one.name)
  if (answer?.answer !== 'found') {
    const open = [answer, never].find((known) => known?.answer === 'undecided')
    return undecided(one.name, open?.answer === 'undecided' ? open.why : (evidence.gap ?? interrupted))
  }
  if (evidence.losses[goal]!.length === 0) {
    const facts = { ...factsOf(one), isAtStart: true }
    return found(one.name, { path: one.path, facts, steps: [], isWatched: true, grant: null })
  }
  const losses = evidence.losses[goal]!.map(({ row, steps, short, lastSafe }): Found<BrokenRequirementFacts> => {
    const by = row === null ? walkerOf(own, steps) : rowSubject(own, own.tables.rows[row]!)
    return { path: one.path, facts: { ...factsOf(one), by }, steps, short, lastSafe, isWatched: true, grant: null }
  })
  return found(one.name, ...losses)
}

const interrupted = 'the check was interrupted'

/** The same, with what the last step sets off, or who makes it. */
function brokenBy(stage: Stage, asked: Asked<BrokenRequirementFacts>, watcher = -1): Asked<BrokenRequirementFacts> {
  const all = asked.found.map((one) => ({
    ...one,
    facts: {
      ...one.facts,
      by: breakerOf(stage, one.steps, watcher),
      isAtStart: one.steps.every((step) => step.do === 'start'),
    },
  }))
  return { ...asked, found: all }
}

/** The transition that the last of some steps sets off, or who walks with it; null where it is neither, but for what watches. */
function breakerOf(stage: Stage, steps: Found['steps'], watcher: number): string | null {
  const walker = walkerOf(stage, steps)
  if (walker !== null) return walker
  const row = steps.length > 0 && setOffBy(stage, steps)
  return row && row.machine !== watcher ? rowSubject(stage, row) : null
}

/** Who makes the last of some steps, where that is a walk; null where it is not. */
function walkerOf(stage: Stage, steps: Found['steps']): string | null {
  const last = steps.at(-1)
  if (last?.do !== 'walk-to') return null
  const name = stage.expanded.characters[last.who]!.name
  const isRoom = stage.space.layout.rooms.some((room) => room.name === last.target)
  return `${name}, walking to ${isRoom ? 'the ' : ''}${last.target},`
}

/** Whether a condition asks about the character that acts. */
function asksActor(check: PlacedRequirement['conditions'][number]['check']): boolean {
  return somePart(check, ({ kind }) => ['carries', 'room', 'role', 'remembers', 'fits'].includes(kind))
}
