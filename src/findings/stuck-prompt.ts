import { ignoredKey, ignoredLookout } from './prompts.ts'
import { type Rule, sighted } from './rule.ts'
import { stateAfter } from './steps.ts'

/** A prompt that stays when there is nothing more to do: a press is ignored. */
export const stuckPrompt: Rule = {
  name: 'stuck-prompt',
  severity: 'warning',
  lookout: ignoredLookout,
  ask(context) {
    const { stage } = context
    return stage.expanded.interactables.flatMap(({ name, path, feedback }, machine) => {
      const at = (feedback.noticed ?? []).findIndex(({ prompt }) => prompt !== undefined)
      if (at < 0) return []
      const asked = sighted(context, name, [ignoredKey(name)], () => ({
        path: `${path}.feedback.noticed.${String(at)}.prompt`,
        facts: { rule: 'stuck-prompt', interactable: name, state: '', prompt: feedback.noticed?.[at]?.prompt ?? null },
        grant: null,
      }))
      return [{ ...asked, found: asked.found.map((one) => stateAfter(stage, machine, one)) }]
    })
  },
}
