import { channelOf, type Moment } from '../model/index.ts'
import { happens } from './feedback-table.ts'
import { momentObservation } from './room.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule } from './rule.ts'

/** Feedback for a moment that never comes: nobody will ever perceive it. */
export const unusedFeedback: Rule = {
  name: 'unused-feedback',
  severity: 'advice',
  observation: momentObservation,
  ask: (context) =>
    Object.keys(context.stage.expanded.level.interactables ?? {}).flatMap((name, machine) =>
      Object.keys(context.stage.expanded.level.interactables?.[name]?.feedback ?? {}).flatMap((moment) =>
        // The keys of feedback are moments: its shape was checked.
        askOne(context, machine, moment as Moment),
      ),
    ),
}

function askOne(context: Context, machine: number, moment: Moment): Asked[] {
  const { name, path, feedback } = context.stage.expanded.interactables[machine]!
  const [entry] = feedback[moment] ?? []
  if (!entry) return []
  const subject = `${name}/${moment}`
  const answer = happens(context, machine, moment)
  if (answer.answer === 'ruled-out') return [ruledOut(subject)]
  if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
  const channel = channelOf(entry)
  const facts = { rule: 'unused-feedback', interactable: name, moment, channel, text: String(entry[channel]) } as const
  return [found(subject, { path: `${path}.feedback.${moment}`, facts, steps: [], grant: null })]
}
