import { lacksPrompt, focusedKey, focusedObservation } from './prompts.ts'
import { type Found, type Rule, witnessed } from './rule.ts'
import { stateAfter } from './steps.ts'

/** Something that can be pressed, and nothing shows it, in a level where other things are announced. */
export const missingPrompt: Rule = {
  name: 'missing-prompt',
  severity: 'warning',
  observation: focusedObservation,
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap(({ name, path, transitions }, machine) => {
      if (!transitions.some(({ when }) => when.kind === 'press' || when.kind === 'hold')) return []
      const asked = witnessed(context, name, lacksPrompt(stage, machine) ? [focusedKey(name)] : [], () => ({
        path,
        facts: { rule: 'missing-prompt', interactable: name, state: '', prompt: null },
        grant: null,
      }))
      return [{ ...asked, found: asked.found.map((one) => endingAt(name, stateAfter(stage, machine, one))) }]
    })
  },
}

/** Steps of which the last walk goes to an interactable, where it comes within reach of it. */
function endingAt(name: string, found: Found): Found {
  const last = found.steps.at(-1)
  if (last?.do !== 'walk-to') return found
  return { ...found, steps: [...found.steps.slice(0, -1), { ...last, target: name }] }
}
