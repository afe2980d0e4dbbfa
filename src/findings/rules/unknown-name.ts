import type { Stage } from '../../play/index.ts'
import { type Edit, isMisspelt } from '../../model/index.ts'
import type { NameProblem } from '../../interactables/index.ts'
import { likely, sure, valueIn } from '../shared/edits.ts'
import { askProblems } from '../shared/names.ts'
import type { Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnknownNameFacts {
  readonly problem: Extract<NameProblem, { rule: 'unknown-name' }>
}

/** So many names that there are are told. */
const mostNamed = 8

/** A well-formed name that leads nowhere. */
export const unknownName: Rule<UnknownNameFacts> = {
  name: 'unknown-name',
  severity: 'error',
  ask: (context) => askProblems(context, 'unknown-name'),
  says({ problem: { kind, name, nearest, misspelt } }) {
    if (!misspelt) return `There is no ${kind} "${name}".`
    const { paths, uses } = misspelt
    const own =
      uses === 0 ? 'nothing names it' : `only ${uses === 1 ? 'one place names' : `${String(uses)} places name`} it`
    return `The ${kind} "${nearest ?? ''}" is defined, but ${own}; ${String(paths.length)} places name "${name}", which is not.`
  },
  fix({ problem: { kind, name, nearest, known, misspelt } }) {
    if (nearest !== null) {
      if (misspelt) return `Rename "${nearest}" to "${name}".`
      return isMisspelt(name, nearest) ? `Write "${nearest}".` : `Perhaps "${nearest}" is meant.`
    }
    return kind === 'zone'
      ? 'Zones belong to interactables: say which with "of", or give one a zone of that name.'
      : known.length === 0 || known.length > mostNamed
        ? 'Write the name of one that is there, or add it to the level.'
        : `Write ${known.length > 1 ? 'one of ' : ''}${known.join(', ')}; or add it to the level.`
  },
  edit({ stage, path, facts: { problem } }) {
    if (problem.nearest === null) return null
    if (problem.misspelt) {
      const edit: Edit = { do: 'rename', path, name: problem.name }
      return problem.misspelt.uses === 0 ? sure(edit) : likely(edit)
    }
    // What is only a part of the name may have been meant otherwise: that is asked, and not written.
    if (!isMisspelt(problem.name, problem.nearest)) return null
    return sure(renamed(stage, path, problem.nearest))
  },
}

/** Another name at a path: in place of a value, or of the key that the path ends in. */
function renamed(stage: Stage, path: string, name: string): Edit {
  return typeof valueIn(stage, path) === 'string' ? { do: 'replace', path, value: name } : { do: 'rename', path, name }
}
