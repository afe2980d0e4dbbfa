import type { Stage } from '../play/index.ts'
import { rowTitle } from './dead-transition.ts'
import { hushed, type Refusal, refusalObservation, refusalsOf, tellingPath } from './refusals.ts'
import { type Context, type Found, type Rule, witnessed } from './rule.ts'

/** A press that is refused, and nothing tells the player so. */
export const silentRefusal: Rule = {
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
}

function toldOf({ stage }: Context, machine: number, refusal: Refusal): Omit<Found, 'steps'> {
  const placed = stage.expanded.interactables[machine]!
  const { row, reasons, missing, blank, told } = refusal
  return {
    path: blank === null ? row.transition.path : blankPath(stage, refusal),
    facts: {
      rule: 'silent-refusal',
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
function fewestOfEach(all: readonly Found[]): Found[] {
  const kept = new Map<string, Found>()
  for (const one of all) {
    const known = kept.get(one.path ?? '')
    if (!known || one.steps.length < known.steps.length) kept.set(one.path ?? '', one)
  }
  return [...kept.values()]
}
