import { likely } from '../shared/edits.ts'
import { type Channel, channelOf, type Moment, type Reason } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'
import { metresTo, middleOf } from '../../space/index.ts'
import { happens } from '../report/feedback-table.ts'
import { momentObservation } from '../shared/room.ts'
import { refusalsOf } from '../shared/refusals.ts'
import { isRuledOut, ruledOut, type Asked, type Context, found, undecided, type Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnusedFeedbackFacts {
  readonly interactable: string
  readonly moment: Moment
  readonly channel: Channel
  readonly text: string
  /** The reason for which it would be told; null: it is told at that moment always. */
  readonly because: Reason | null
  /** How near one would have to be, in metres, where nobody can be so near; else null. */
  readonly within: number | null
}

/** Feedback for a moment that never comes: nobody will ever perceive it. */
export const unusedFeedback: Rule<UnusedFeedbackFacts> = {
  name: 'unused-feedback',
  severity: 'advice',
  asksOthers: true,
  observation: momentObservation,
  ask: (context) =>
    Object.keys(context.stage.expanded.level.interactables ?? {}).flatMap((name, machine) =>
      Object.keys(context.stage.expanded.level.interactables?.[name]?.feedback ?? {}).flatMap((moment) =>
        // The keys of feedback are moments: its shape was checked.
        askOne(context, machine, moment as Moment),
      ),
    ),
  says(facts) {
    if (facts.within !== null) {
      return `What ${facts.interactable} has to tell when ${momentTexts[facts.moment]} (${facts.channel} "${facts.text}") is never perceived: only those within ${String(facts.within)} m of it would, and nobody can stand so near.`
    }
    if (facts.because !== null) {
      return `What ${facts.interactable} has to tell when a press is refused because of ${facts.because} (${facts.channel} "${facts.text}") is never perceived: it is never refused for that.`
    }
    return `What ${facts.interactable} has to tell when ${momentTexts[facts.moment]} (${facts.channel} "${facts.text}") is never perceived: that never happens.`
  },
  fix({ within }) {
    return within === null ? 'Take it out, or tell it at a moment that comes.' : 'Let it be perceived from farther off.'
  },
  edit({ path, facts }) {
    if (facts.within !== null) return null
    return likely({ do: 'remove', path })
  },
}

function askOne(context: Context, machine: number, moment: Moment): Asked<UnusedFeedbackFacts>[] {
  const { name, path, feedback } = context.stage.expanded.interactables[machine]!
  const [entry] = feedback[moment] ?? []
  if (!entry) return []
  const subject = `${name}/${moment}`
  const answer = happens(context, machine, moment)
  if (answer.answer === 'ruled-out') {
    return [ruledOut(subject), ...tooNear(context, machine, moment), ...becauseOf(context, machine, moment)]
  }
  if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
  const channel = channelOf(entry)
  const facts = {
    interactable: name,
    moment,
    channel,
    text: String(entry[channel]),
    because: null,
    within: null,
  } as const
  return [found(subject, { path: `${path}.feedback.${moment}`, facts, steps: [], grant: null })]
}

/** Entries for those who are nearer than anybody can stand. */
function tooNear({ stage }: Context, machine: number, moment: Moment): Asked<UnusedFeedbackFacts>[] {
  const { name, path, feedback } = stage.expanded.interactables[machine]!
  if (!stage.space.layout.figures[machine]!.handle) return []
  return (feedback[moment] ?? []).flatMap((entry, i): Asked<UnusedFeedbackFacts>[] => {
    const { to } = entry
    if (typeof to !== 'object') return []
    const subject = `${name}/${moment}/${String(i + 1)} within`
    if (isStoodNear(stage, machine, to.within)) return [ruledOut(subject)]
    const channel = channelOf(entry)
    const facts = { interactable: name, moment, channel, text: String(entry[channel]), because: null, ...to } as const
    return [found(subject, { path: `${path}.feedback.${moment}.${String(i)}.to`, facts, steps: [], grant: null })]
  })
}

/** Whether somebody may stand so near to an interactable: told from whole cells, so that it is not ruled out by rounding. */
function isStoodNear({ space, expanded }: Stage, machine: number, within: number): boolean {
  return expanded.characters.some((_, who) => {
    const { grid, patchesIn } = space.patches[who]!
    const reach = within + grid.slack
    return Array.from(grid.stands.keys()).some(
      (cell) => metresTo(space.layout, machine, middleOf(grid, cell)) <= reach && patchesIn(cell).length > 0,
    )
  })
}

/** Entries of a refusal that are told for a reason for which nothing is ever refused. */
function becauseOf(context: Context, machine: number, moment: Moment): Asked<UnusedFeedbackFacts>[] {
  const { name, path, feedback, transitions } = context.stage.expanded.interactables[machine]!
  // What keeps a press down, or walks, can be refused for other reasons than a press.
  if (transitions.some(({ when }) => when.kind === 'hold')) return []
  return (feedback[moment] ?? []).flatMap((entry, i): Asked<UnusedFeedbackFacts>[] => {
    const { because } = entry
    if (because === undefined) return []
    const subject = `${name}/${moment}/${String(i + 1)}`
    const refusals = refusalsOf(context, machine).filter(
      (one) => one.moment === moment && one.reasons.includes(because),
    )
    const seen = refusals.flatMap(({ key }) => context.evidence.witnesses.get(key) ?? [])
    if (seen.some(({ shown }) => shown)) return [ruledOut(subject)]
    if (
      seen.length > 0 ||
      !isRuledOut(
        context.evidence,
        refusals.map(({ key }) => key),
      )
    ) {
      return [undecided(subject, context.evidence.gap ?? context.evidence.unplayed)]
    }
    const channel = channelOf(entry)
    const facts = { interactable: name, moment, channel, text: String(entry[channel]), because, within: null } as const
    return [found(subject, { path: `${path}.feedback.${moment}.${String(i)}`, facts, steps: [], grant: null })]
  })
}

const momentTexts: Readonly<Record<Moment, string>> = {
  focused: 'a press would go to it',
  accepted: 'a press is accepted',
  refused: 'a press is refused',
  missing: 'an item is missing',
  'too-full': 'there is no room',
  started: 'a motion begins',
  finished: 'a motion ends',
  gained: 'somebody gets an item from it',
  consumed: 'somebody uses an item up on it',
}
