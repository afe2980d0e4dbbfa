import type { Reason } from '../../model/index.ts'
import { fillIn, sure, toldAt } from '../shared/edits.ts'
import type { Stage } from '../../play/index.ts'
import { rowTitle } from '../shared/rows.ts'
import { hushed, type Refusal, refusalObservation, refusalsOf, tellingPath } from '../shared/refusals.ts'
import { type Context, type Found, type Proposal, type Rule, witnessed } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface SilentRefusalFacts {
  readonly interactable: string
  readonly transition: string
  readonly state: string
  readonly reasons: readonly Reason[]
  /** The items that are missing, by title. */
  readonly items: readonly string[]
  /** Whether there is a message that is still to be written. */
  readonly isBlank: boolean
  /** Why it goes untold. */
  readonly hush: 'never' | 'once' | 'pause' | 'within'
}

/** A press that is refused, and nothing tells the player so. */
export const silentRefusal: Rule<SilentRefusalFacts> = {
  name: 'silent-refusal',
  severity: 'warning',
  observation: refusalObservation,
  ask(context) {
    return context.stage.expanded.interactables.flatMap((placed, machine) => {
      if (!placed.transitions.some(({ when }) => when.kind === 'press')) return []
      const silent = refusalsOf(context, machine).filter(({ told }) => told !== 'always')
      const keys = silent.map(({ key, told }) => (told === 'never' ? key : hushed + key))
      const asked = witnessed(context, placed.name, keys, (key) => {
        const refusal = silent.find((one) => key.endsWith(one.key))!
        return toldOf(context, machine, refusal)
      })
      return [{ ...asked, found: fewestOfEach(asked.found) }]
    })
  },
  says(facts) {
    return `${facts.interactable} refuses a press while ${facts.state}${becauseText(facts.reasons, facts.items)}, and ${hushText(facts)}.`
  },
  fix(facts) {
    return facts.isBlank ? 'Write the message.' : 'Say what is missing, or let it sound.'
  },
  edit({ stage, facts }) {
    return facts.isBlank ? null : refusalLine(stage, facts.interactable, facts.items.length > 0)
  },
}

function toldOf({ stage }: Context, machine: number, refusal: Refusal): Omit<Found<SilentRefusalFacts>, 'steps'> {
  const placed = stage.expanded.interactables[machine]!
  const { row, reasons, missing, blank, told } = refusal
  return {
    path: blank === null ? row.transition.path : blankPath(stage, refusal),
    facts: {
      interactable: placed.name,
      transition: rowTitle(stage, row),
      state: placed.states[row.transition.from[0]!]!.name,
      reasons,
      items: missing.map((item) => stage.expanded.items[item]!.title),
      isBlank: blank !== null,
      hush: told === 'always' ? 'never' : told,
    },
    grant: null,
  }
}

/** Where the message is that is still to be written. */
function blankPath(stage: Stage, refusal: Refusal): string {
  const path = tellingPath(stage, refusal)
  return path.endsWith(`.feedback.${refusal.moment}`) ? `${path}.${String(refusal.blank)}.message` : path
}

/** Refusals that need the same words, in one place, are told once: the one that is met first. */
function fewestOfEach(all: readonly Found<SilentRefusalFacts>[]): Found<SilentRefusalFacts>[] {
  const kept = new Map<string, Found<SilentRefusalFacts>>()
  for (const one of all) {
    const known = kept.get(one.path ?? '')
    if (!known || one.steps.length < known.steps.length) kept.set(one.path ?? '', one)
  }
  return [...kept.values()]
}

function hushText({ isBlank, hush }: SilentRefusalFacts): string {
  if (isBlank) return 'the message that says so is still to be written'
  switch (hush) {
    case 'never':
      return 'nothing says so: no sound, no message'
    case 'once':
      return 'says so only the first time: the next press is met with silence'
    case 'pause':
      return 'says so only after a pause: another press before that is met with silence'
    case 'within':
      return 'says so only to players who stand near: a press from farther off is met with silence'
  }
}

function becauseText(reasons: readonly Reason[], items: readonly string[]): string {
  if (items.length > 0) return `, because the ${items.join(' and the ')} is missing`
  if (reasons.includes('room-for') || reasons.includes('something-fits')) return ', because there is no room'
  return ''
}

/** A message for a refusal, to be filled in. */
function refusalLine(stage: Stage, interactable: string, isMissing: boolean): Proposal {
  const message = isMissing ? `${fillIn} {item} is missing)` : `${fillIn} why it refuses)`
  return sure(toldAt(stage, interactable, 'refused', message))
}
