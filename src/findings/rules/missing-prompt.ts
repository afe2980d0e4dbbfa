import { likely } from '../shared/edits.ts'
import { lacksPrompt, focusedKey, focusedObservation } from '../shared/prompts.ts'
import { type Asked, type Context, found, type Found, ruledOut, type Rule, witnessed } from '../rule.ts'
import { stateAfter } from '../shared/steps.ts'

/** What is known of a finding of this rule. */
export interface MissingPromptFacts {
  readonly interactable: string
  readonly state: string
}

/** Something that can be pressed, and nothing shows it, in a level where other things are announced. */
export const missingPrompt: Rule<MissingPromptFacts> = {
  name: 'missing-prompt',
  severity: 'warning',
  observation: focusedObservation,
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap(({ name, path, transitions, wheels, states, initial }, machine) => {
      if (wheels.length > 0) return [askDial(context, machine, states[initial]!.name)]
      if (!transitions.some(({ when }) => when.kind === 'press' || when.kind === 'hold')) return []
      const asked = witnessed(context, name, lacksPrompt(stage, machine) ? [focusedKey(name)] : [], () => ({
        path,
        facts: { interactable: name, state: '' },
        grant: null,
      }))
      return [{ ...asked, found: asked.found.map((one) => endingAt(name, stateAfter(stage, machine, one))) }]
    })
  },
  says(facts) {
    return `A player in front of ${facts.interactable} (${facts.state}) is shown nothing, though it can be used; other things in this level announce themselves.`
  },
  fix() {
    return 'Announce it under focused: by a prompt, a highlight, a light or an icon.'
  },
  edit({ facts }) {
    return likely({
      do: 'add',
      path: `interactables.${facts.interactable}.feedback`,
      key: 'focused',
      value: [{ prompt: `Use the ${facts.interactable.replaceAll('-', ' ')}` }],
    })
  },
}

/** A dial has no press; that its wheels can be set is known from plays. */
function askDial({ stage, evidence }: Context, machine: number, state: string): Asked<MissingPromptFacts> {
  const { name, path } = stage.expanded.interactables[machine]!
  const isSet = evidence.moments.has(`${String(machine)} focused`)
  if (!isSet || !lacksPrompt(stage, machine)) return ruledOut(name)
  return found(name, { path, facts: { interactable: name, state }, steps: [], grant: null })
}

/** Steps of which the last walk goes to an interactable, where it comes within reach of it. */
function endingAt(name: string, found: Found<MissingPromptFacts>): Found<MissingPromptFacts> {
  const last = found.steps.at(-1)
  if (last?.do !== 'walk-to') return found
  return { ...found, steps: [...found.steps.slice(0, -1), { ...last, target: name }] }
}
