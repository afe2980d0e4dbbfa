import { likely } from '../shared/edits.ts'
import { vainKey, vainLookout } from '../shared/prompts.ts'
import { type Rule, witnessed } from '../rule.ts'
import { stateAfter } from '../shared/steps.ts'

/** What is known of a finding of this rule. */
export interface StuckPromptFacts {
  readonly interactable: string
  readonly state: string
  readonly prompt: string
}

/** A prompt that stays when there is nothing more to be had: what it asks for is refused, for good. */
export const stuckPrompt: Rule<StuckPromptFacts> = {
  name: 'stuck-prompt',
  severity: 'warning',
  observation: vainLookout,
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap(({ name, path, feedback }, machine) => {
      const at = (feedback.focused ?? []).findIndex(({ prompt }) => prompt !== undefined)
      if (at < 0) return []
      const keys = stage.expanded.characters.map((person) => vainKey(name, person.name))
      const asked = witnessed(context, name, keys, () => ({
        path: `${path}.feedback.focused.${String(at)}.prompt`,
        facts: { interactable: name, state: '', prompt: feedback.focused?.[at]?.prompt ?? '' },
        grant: null,
      }))
      return [{ ...asked, found: asked.found.slice(0, 1).map((one) => stateAfter(stage, machine, one)) }]
    })
  },
  says(facts) {
    return `The prompt "${facts.prompt}" stays on ${facts.interactable} when there is nothing more to be had: every press is refused from then on.`
  },
  fix() {
    return 'Show the prompt only while a press would do something.'
  },
  edit({ path }) {
    return likely({ do: 'add', path: path.replace(/\.prompt$/, ''), key: 'shown', value: 'if-accepted' })
  },
}
