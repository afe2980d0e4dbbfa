import type { Stage } from '../../play/index.ts'
import { type Edit, isMisspelt } from '../../model/index.ts'
import type { NameProblem } from '../../interactables/index.ts'
import { likely, sure, valueIn } from '../shared/edits.ts'
import { askProblems } from '../shared/names.ts'
import { unusedTypes } from '../shared/unused-types.ts'
import type { Rule } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UnknownNameFacts {
  readonly problem: Extract<NameProblem, { rule: 'unknown-name' }>
  /** For a state that is asked about: the interactables that have one of that name. */
  readonly having: readonly string[]
  /** For an interactable: the type of that name, where nothing is of it. */
  readonly unusedType: string | null
}

/** So many names that there are are told. */
const mostNamed = 8

/** A well-formed name that leads nowhere. */
export const unknownName: Rule<UnknownNameFacts> = {
  name: 'unknown-name',
  severity: 'error',
  isByLevel: true,
  ask: (context) =>
    askProblems(context, 'unknown-name').map((asked) => ({
      ...asked,
      found: asked.found.map((one) => ({
        ...one,
        facts: { ...one.facts, ...hintsFor(context.stage, one.facts.problem) },
      })),
    })),
  lostType: ({ unusedType }) => unusedType,
  says({ problem: { kind, name, nearest, misspelt } }) {
    if (!misspelt) return `There is no ${kind} "${name}".`
    const { paths, uses } = misspelt
    const own =
      uses === 0 ? 'nothing names it' : `only ${uses === 1 ? 'one place names' : `${String(uses)} places name`} it`
    return `The ${kind} "${nearest ?? ''}" is defined, but ${own}; ${String(paths.length)} places name "${name}", which is not.`
  },
  fix({ problem: { kind, name, nearest, known, misspelt }, having, unusedType }) {
    if (unusedType !== null) return `Place an interactable with type: ${unusedType}: nothing is of it.`
    if (nearest !== null) {
      if (misspelt) return `Rename "${nearest}" to "${name}".`
      return isMisspelt(name, nearest) ? `Write "${nearest}".` : `Perhaps "${nearest}" is meant.`
    }
    return kind === 'zone'
      ? 'Zones belong to interactables: say which with "of", or give one a zone of that name.'
      : having.length > 0
        ? `Write ${known.length > 1 ? 'one of ' : ''}${known.join(', ')}; or ask about what has a state of that name: ${having.join(', ')}.`
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

/** What else may have been meant: the state of another interactable, or an instance of a type that nothing is of. */
function hintsFor(
  { expanded }: Stage,
  { kind, name, path, nearest }: NameProblem & { rule: 'unknown-name' },
): Omit<UnknownNameFacts, 'problem'> {
  const isAsked = kind === 'state' && nearest === null && /\.is(\.\d+)?$/.test(path)
  const having = isAsked
    ? expanded.interactables.flatMap((one) => (one.states.some((state) => state.name === name) ? [one.name] : []))
    : []
  const isLost = kind === 'interactable' && unusedTypes(expanded).includes(name)
  return { having: having.slice(0, mostNamed), unusedType: isLost ? name : null }
}

/** Another name at a path: in place of a value, or of the key that the path ends in. */
function renamed(stage: Stage, path: string, name: string): Edit {
  return typeof valueIn(stage, path) === 'string' ? { do: 'replace', path, value: name } : { do: 'rename', path, name }
}
