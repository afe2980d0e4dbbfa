import type { Placed } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { looksAlike } from '../shared/looks.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule } from '../rule.ts'
import { leadingTo } from '../shared/rows.ts'

/** What is known of a finding of this rule. */
export interface SameLookFacts {
  readonly interactable: string
  readonly states: readonly [string, string]
  readonly look: string
}

/** Two states that are said to look the same, and that answer differently. */
export const sameLook: Rule<SameLookFacts> = {
  name: 'same-look',
  severity: 'warning',
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) =>
      placed.states.flatMap((_, one) =>
        placed.states.flatMap((_, other) =>
          one < other && areSameLook(placed, one, other) && answersDiffer(placed, one, other)
            ? [askOne(context, machine, one, other)]
            : [],
        ),
      ),
    )
  },
  says(facts) {
    return `${facts.interactable} looks the same while ${facts.states[0]} and while ${facts.states[1]} ("${facts.look}"), but answers differently.`
  },
  fix() {
    return 'Let them look different.'
  },
}

/** Whether the level says of two states, in the same words, how they look, and nothing else tells them apart. */
export function areSameLook(placed: Placed, one: number, other: number): boolean {
  const [a, b] = [placed.states[one]!, placed.states[other]!]
  const areWritten = [a, b].every(({ path }) => path.startsWith('types.'))
  return areWritten && a.look !== null && looksAlike(placed, one, other)
}

/** Whether a press, or anything else, leads elsewhere from one state than from another. */
function answersDiffer({ transitions, states }: Placed, one: number, other: number): boolean {
  const from = (state: number): string =>
    JSON.stringify(
      transitions
        .filter((row) => row.from.includes(state))
        .map(({ to, when, guard }) => [to === null || to === state ? null : to, when, guard]),
    )
  return from(one) !== from(other) || states[one]!.ignoresPress !== states[other]!.ignoresPress
}

function askOne({ stage, evidence }: Context, machine: number, one: number, other: number): Asked<SameLookFacts> {
  const placed = stage.expanded.interactables[machine]!
  const [a, b] = [placed.states[one]!, placed.states[other]!]
  const subject = `${placed.name}/${a.name}/${b.name}`
  const answers = [one, other].map((state) => isReached(stage, evidence, machine, state))
  if (answers.includes('ruled-out')) return ruledOut(subject)
  if (answers.includes('undecided')) return undecided(subject, evidence.gap ?? evidence.unplayed)
  const facts = { interactable: placed.name, states: [a.name, b.name], look: a.look ?? '' } as const
  return found(subject, { path: `${b.path}.look`, facts, steps: [], grant: null })
}

function isReached(stage: Stage, evidence: Context['evidence'], machine: number, state: number): string {
  if (stage.expanded.interactables[machine]!.initial === state) return 'found'
  const answers = leadingTo(stage.tables, machine, state).map((row) => evidence.dead[row]!.answer)
  if (answers.includes('ruled-out')) return 'found'
  return answers.includes('undecided') ? 'undecided' : 'ruled-out'
}
