import { vainKey, vainLookout } from './prompts.ts'
import { type Rule, witnessed } from './rule.ts'
import { stateAfter } from './steps.ts'

/** A prompt that stays when there is nothing more to be had: what it asks for is refused, for good. */
export const stuckPrompt: Rule = {
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
        facts: { rule: 'stuck-prompt', interactable: name, state: '', prompt: feedback.focused?.[at]?.prompt ?? null },
        grant: null,
      }))
      return [{ ...asked, found: asked.found.slice(0, 1).map((one) => stateAfter(stage, machine, one)) }]
    })
  },
}
