import { found, type Rule, ruledOut } from '../rule.ts'
import { valueIn } from '../shared/edits.ts'
import { secondsText } from '../report/told.ts'

/** What is known of a finding of this rule. */
export interface TooLateFacts {
  readonly interactable: string
  readonly state: string
  /** Milliseconds for which it lets anybody through, and those that the way there takes at the least. */
  readonly given: number
  readonly needed: number
}

/** Something that lets through for a time, which is too short to come there from where it is set going. */
export const tooLate: Rule<TooLateFacts> = {
  name: 'too-late',
  severity: 'error',
  ask({ stage, evidence }) {
    const { expanded, space } = stage
    return expanded.interactables.flatMap(({ name, path, states, index }) => {
      const isTimed = stage.tables.states[index]!.some(({ timers, blocksWalk }) => timers.length > 0 && !blocksWalk)
      if (!isTimed || !space.layout.figures[index]!.comesAndGoes) return []
      const late = evidence.tooLate.find(({ machine }) => machine === index)
      if (!late) return evidence.gap === null ? [ruledOut(name)] : []
      const facts = { interactable: name, state: states[late.state]!.name, given: late.given, needed: late.needed }
      const own = `${path}.set.closes.after`
      return [
        found(name, {
          path: valueIn(stage, own) === undefined ? states[late.state]!.path : own,
          facts,
          steps: [],
          grant: { grant: 'time', machine: index },
        }),
      ]
    })
  },
  says({ interactable, state, given, needed }) {
    const short = Math.ceil(needed - given)
    return `Nobody gets through ${interactable} in time: it is ${state} for ${secondsText(given)}, and the way to it takes at least ${secondsText(Math.ceil(needed))} from then on, ${secondsText(short)} too long.`
  },
  fix({ interactable }) {
    return `Let ${interactable} wait longer, or bring what sets it going nearer to it.`
  },
}
