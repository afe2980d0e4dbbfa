import type { Channel, Moment } from '../../model/index.ts'
import { fillIn, likely } from '../shared/edits.ts'
import { isForOneSense, refusalsOf, tellingPath, toldBy } from '../shared/refusals.ts'
import { type Rule, witnessed } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface OneChannelFacts {
  readonly interactable: string
  readonly moment: Moment
  readonly channels: readonly Channel[]
  /** A message is there, and is still to be written. */
  readonly isToWrite: boolean
}

/** A refusal that only an ear, or only a hand, perceives. */
export const oneChannel: Rule<OneChannelFacts> = {
  name: 'one-channel',
  severity: 'advice',
  asksOthers: true,
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) => {
      const all = refusalsOf(context, machine)
      if (all.length === 0) return []
      const narrow = all.filter((refusal) => isForOneSense(toldBy(refusal)))
      const asked = witnessed(
        context,
        placed.name,
        narrow.map(({ key }) => key),
        (key) => {
          const refusal = narrow.find((one) => one.key === key)!
          const channels = toldBy(refusal)
          const isToWrite = refusal.blank !== null
          return {
            path: tellingPath(context.stage, refusal),
            facts: { interactable: placed.name, moment: refusal.moment, channels, isToWrite },
            grant: null,
          }
        },
      )
      const [first] = asked.found
      return [{ ...asked, found: first ? [first] : [] }]
    })
  },
  says(facts) {
    return `That ${facts.interactable} refuses is told by ${facts.channels.join(' and ')} alone: a player who cannot ${facts.channels.includes('sound') ? 'hear' : 'feel'} it is told nothing.`
  },
  fix({ isToWrite }) {
    return isToWrite ? 'Write the message that is begun.' : 'Add a message, or something else that is seen.'
  },
  edit({ path, facts }) {
    return path.includes('.feedback.') && !facts.isToWrite
      ? likely({ do: 'append', path, value: { message: `${fillIn} why it refuses)` } })
      : null
  },
}
