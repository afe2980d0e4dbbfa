import type { Check, Expanded } from '../../interactables/index.ts'
import { likely } from '../shared/edits.ts'
import { departures } from '../../play/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface IdleFlagFacts {
  readonly flag: string
  readonly is: 'never-asked' | 'never-changed'
}

/** A flag that is set and that nothing asks about, or that nothing ever changes. */
export const idleFlag: Rule<IdleFlagFacts> = {
  name: 'idle-flag',
  severity: 'advice',
  ask({ stage: { expanded }, project }) {
    // In another level of the project it may be asked about, or set.
    const isAlone = project === null && departures(expanded).length === 0
    const asked = flagsAsked(expanded)
    const changed = new Set(
      expanded.interactables.flatMap(({ transitions }) =>
        transitions.flatMap(({ changes }) =>
          changes.flatMap((change) =>
            change.kind === 'set' && change.to !== expanded.flags[change.flag]!.initial ? [change.flag] : [],
          ),
        ),
      ),
    )
    return expanded.flags.map(({ name }, flag) => {
      const is = !asked.has(flag) ? 'never-asked' : !changed.has(flag) ? 'never-changed' : null
      if (!isAlone || is === null) return ruledOut(name)
      return found(name, { path: `flags.${name}`, isAboutKey: true, facts: { flag: name, is }, steps: [], grant: null })
    })
  },
  says({ flag, is }) {
    return is === 'never-asked'
      ? `Nothing asks for the flag ${flag}: that it is set makes no difference.`
      : `Nothing ever changes the flag ${flag}: what asks for it gets the same answer always.`
  },
  fix({ is }) {
    return is === 'never-asked'
      ? 'Ask for it where it is meant to matter, or take it out.'
      : 'Set it where it is meant to be set, or take it out.'
  },
  edit({ path, facts }) {
    return facts.is === 'never-asked' ? likely({ do: 'remove', path }) : null
  },
}

function flagsAsked({ interactables, goals }: Expanded): Set<number> {
  const asked = new Set<number>()
  const look = (check: Check): void => {
    if (check.kind === 'flag') asked.add(check.flag)
    else if (check.kind === 'not') look(check.check)
    else if (check.kind === 'all' || check.kind === 'any') check.checks.forEach(look)
  }
  for (const { check } of goals) look(check)
  for (const { guard, when } of interactables.flatMap(({ transitions }) => transitions)) {
    look(guard)
    if (when.kind === 'becomes') look(when.check)
    if (when.kind === 'press' && when.offered) look(when.offered)
  }
  return asked
}
