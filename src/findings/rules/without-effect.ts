import { somePart } from '../shared/conditions.ts'
import { askedByPlans, type Change, type Check, type Expanded, type Placed } from '../../interactables/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { staleReference } from './stale-reference.ts'
import { reaches, signalsOf } from '../shared/signals.ts'

/** What is known of a finding of this rule. */
export interface WithoutEffectFacts {
  readonly interactable: string
  readonly type: string
}

/** The built-in types that are there for the sake of something else. */
const causes = ['lever', 'button', 'pressure-plate', 'keyhole', 'dial-lock']

/** A lever, a plate, a keyhole that a player can work, and on which nothing in the level hangs. */
export const withoutEffect: Rule<WithoutEffectFacts> = {
  name: 'without-effect',
  severity: 'advice',
  ask(context) {
    const { stage, problems, evidence } = context
    const { expanded } = stage
    const { level } = expanded
    // That another instance points at the wrong one is told by itself.
    const free = staleReference.ask(context).flatMap((one) => one.found.map(({ facts }) => facts.free))
    const { sent, heard } = signalsOf(stage)
    return expanded.interactables.flatMap((placed) => {
      const { name, type, path, index } = placed
      if (!causes.includes(type) || level.interactables?.[name]?.['test-only']) return []
      const isBroken = problems.some((problem) => problem.subject === name || problem.path.startsWith(`${path}.`))
      const isWorked = stage.tables.rowsOf[index]!.some((row) => evidence.dead[row.index]!.answer === 'ruled-out')
      // That a signal is not heard is told by itself.
      const isSending = sent.some((one) => one.by.index === index && !heard.some((other) => reaches(one, other)))
      const isWorking =
        sent.some((one) => one.by.index === index) ||
        tells(placed) ||
        changesSomething(placed) ||
        isAskedFor(expanded, index)
      if (isBroken || !isWorked || free.includes(name) || isSending || isWorking) return [ruledOut(name)]
      return [found(name, { path, facts: { interactable: name, type }, steps: [], grant: null })]
    })
  },
  says({ interactable, type }) {
    return `Nothing hangs on ${interactable}: players can work this ${type}, and nothing else in the level changes, asks for it, or hears of it.`
  },
  fix() {
    return 'Let it send a signal or set a flag, or ask for its state somewhere; or take it out.'
  },
}

/** Whether it tells players something, which may be all that it is for: words, or what a bell or a horn sounds like. */
function tells({ type, feedback }: Placed): boolean {
  const told = feedback.accepted ?? []
  return type === 'button'
    ? told.length > 0
    : told.some(({ message, popup }) => message !== undefined || popup !== undefined)
}

const effects: readonly Change['kind'][] = ['give', 'take-out', 'move-to', 'exit-to', 'set', 'count']

/** Whether a transition of it changes anything but itself. */
function changesSomething({ transitions }: Placed): boolean {
  return transitions.some(({ changes }) => changes.some(({ kind }) => effects.includes(kind)))
}

/** Whether a goal, or something else, asks how it stands, or what is in it. */
function isAskedFor(
  { interactables, goals, requirements, zones, contents, wheels }: Expanded,
  machine: number,
): boolean {
  const asks = (check: Check): boolean =>
    somePart(check, (part) => {
      switch (part.kind) {
        case 'state':
          return part.interactable === machine
        case 'inside':
          return zones[part.zone]!.interactable === machine
        case 'dial':
          return wheels[part.wheel]!.interactable === machine
        case 'contains':
          return contents[part.content]!.interactable === machine
        default:
          return false
      }
    })
  return (
    askedByPlans({ goals, requirements }).some(({ check }) => asks(check)) ||
    interactables.some(
      ({ index, transitions }) =>
        index !== machine &&
        transitions.some(({ guard, when }) => {
          const waited = when.kind === 'becomes' ? when.check : when.kind === 'press' ? when.offered : null
          return asks(guard) || (waited !== null && asks(waited))
        }),
    )
  )
}
