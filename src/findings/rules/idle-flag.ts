import { askedByPlans, type Check, type Expanded, type PlacedTransition } from '../../interactables/index.ts'
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
  isByLevel: true,
  ask({ stage: { expanded, tables }, evidence, project }) {
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
      // What is never taken for its sake is told by itself.
      const isTold = tables.rows.some(
        ({ index, transition }) => evidence.dead[index]!.answer === 'found' && asksFor(transition, flag),
      )
      const is = !asked.has(flag) ? 'never-asked' : !changed.has(flag) && !isTold ? 'never-changed' : null
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

function flagsAsked({ interactables, goals, requirements }: Expanded): Set<number> {
  const asked = new Set(askedByPlans({ goals, requirements }).flatMap(({ check }) => flagsIn(check)))
  for (const { guard, when } of interactables.flatMap(({ transitions }) => transitions)) {
    for (const flag of flagsOf({ guard, when })) asked.add(flag)
  }
  return asked
}

function asksFor(row: Pick<PlacedTransition, 'guard' | 'when'>, flag: number): boolean {
  return flagsOf(row).includes(flag)
}

/** The flags that a transition asks for, in its guard or in what it waits for. */
function flagsOf({ guard, when }: Pick<PlacedTransition, 'guard' | 'when'>): number[] {
  const waited = when.kind === 'becomes' ? when.check : when.kind === 'press' ? when.offered : null
  return [...flagsIn(guard), ...(waited ? flagsIn(waited) : [])]
}

function flagsIn(check: Check): number[] {
  if (check.kind === 'flag') return [check.flag]
  if (check.kind === 'not') return flagsIn(check.check)
  return check.kind === 'all' || check.kind === 'any' ? check.checks.flatMap(flagsIn) : []
}
