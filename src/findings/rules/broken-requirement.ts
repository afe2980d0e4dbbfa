import type { Stage } from '../../play/index.ts'
import { goalText } from '../shared/texts.ts'
import { rowSubject } from '../shared/rows.ts'
import { setOffBy } from '../shared/steps.ts'
import { type Rule, witnessed } from '../rule.ts'

const start = 'broken '

/** What is known of a finding of this rule. */
export interface BrokenRequirementFacts {
  readonly requirement: string
  readonly title: string | null
  readonly kind: 'never' | 'always'
  /** The transition that breaks it; null where none does: it is broken by where somebody goes, or from the start on. */
  readonly by: string | null
  readonly isAtStart: boolean
}

/** Something that must never be so can be so, or something that must always be so can fail to be. */
export const brokenRequirement: Rule<BrokenRequirementFacts> = {
  name: 'broken-requirement',
  severity: 'error',
  observation(stage) {
    const { requirements } = stage.expanded
    const isBroken = (index: number, regs: Int32Array): boolean =>
      stage.tables.requirements[index]!(regs, 0) === (requirements[index]!.kind === 'never')
    const indexOf = (key: string): number => requirements.findIndex(({ name }) => start + name === key)
    return {
      isFault: () => true,
      onSituation: requirements.map(({ name }, index) => (regs, see) => {
        if (isBroken(index, regs)) see(start + name)
      }),
      isShown: (key, play) => isBroken(indexOf(key), play.registers()),
    }
  },
  ask(context) {
    const { stage } = context
    return stage.expanded.requirements.flatMap(({ name, title, kind, path }) => {
      // Of what asks for something that is not there nothing is known.
      if (context.problems.some((problem) => problem.path.startsWith(`${path}.`))) return []
      const asked = witnessed(context, name, [start + name], () => ({
        path,
        facts: { requirement: name, title, kind, by: null, isAtStart: false },
        grant: null,
      }))
      const found = asked.found.map((one) => ({
        ...one,
        facts: { ...one.facts, by: breakerOf(stage, one.steps), isAtStart: one.steps.length === 0 },
      }))
      return [{ ...asked, found }]
    })
  },
  says({ requirement, title, kind, by, isAtStart }) {
    const how = isAtStart
      ? 'it is broken before anybody has done anything'
      : by === null
        ? 'a player can break it'
        : `${by} can break it`
    const what = kind === 'never' ? 'what must never be so comes to be so' : 'what must always be so is so no longer'
    return `The requirement ${goalText({ goal: requirement, title })} does not hold: ${how}; ${what}.`
  },
  fix() {
    return 'Let a guard keep what breaks it from happening, or ask for less in the requirement.'
  },
}

/** The transition that the last of some steps sets off; null where it sets off none. */
function breakerOf(stage: Stage, steps: Parameters<typeof setOffBy>[1]): string | null {
  const last = steps.at(-1)
  const row = last && last.do !== 'walk-to' ? setOffBy(stage, steps) : null
  return row ? rowSubject(stage, row) : null
}
