import type { Change, PlacedTransition } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { likely, valueIn } from '../shared/edits.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface ForgottenFlagFacts {
  readonly interactable: string
  readonly transition: string
  /** The flag that it sets or clears, and the one that goes with it everywhere else. */
  readonly flag: string
  readonly other: string
  readonly to: boolean
  /** What sets or clears both. */
  readonly elsewhere: readonly string[]
}

/** Two flags that are set together, or cleared together, everywhere but in one transition, which forgets one of them. */
export const forgottenFlag: Rule<ForgottenFlagFacts> = {
  name: 'forgotten-flag',
  severity: 'advice',
  isByLevel: true,
  ask({ stage }) {
    const { flags } = stage.expanded
    return flags.flatMap(({ name }, flag) =>
      flags.flatMap((other, at) =>
        flag === at
          ? []
          : [true, false].flatMap((to) => {
              const both = transitionsWith(stage, (changes) => sets(changes, flag, to) && sets(changes, at, to))
              if (both.length < 2) return []
              const alone = transitionsWith(stage, (changes) => sets(changes, flag, to) && !touches(changes, at))
              const otherAlone = transitionsWith(stage, (changes) => sets(changes, at, to) && !sets(changes, flag, to))
              const subject = `${name}/${other.name}/${to ? 'set' : 'cleared'}`
              const [odd] = alone
              if (!odd || alone.length > 1 || otherAlone.length > 0) return [ruledOut(subject)]
              const facts = {
                interactable: odd.interactable,
                transition: odd.row.name ?? 'transition',
                flag: name,
                other: other.name,
                to,
                elsewhere: [...new Set(both.map((one) => one.interactable))],
              }
              return [found(subject, { path: odd.row.path, facts, steps: [], grant: null })]
            }),
      ),
    )
  },
  says({ interactable, transition, flag, other, to, elsewhere }) {
    const does = to ? 'sets' : 'clears'
    return `${interactable} ${does} the flag ${flag} with its transition ${transition}, but not the flag ${other}; ${listed(elsewhere)} ${elsewhere.length > 1 ? (to ? 'set' : 'clear') : does} both.`
  },
  fix({ to }) {
    return to ? 'Set both, or neither.' : 'Clear both, or neither.'
  },
  edit({ stage, path, facts }) {
    if (!Array.isArray(valueIn(stage, `${path}.effects`))) return null
    const value = { set: facts.other, ...(facts.to ? {} : { to: false }) }
    return likely({ do: 'append', path: `${path}.effects`, value })
  },
}

function transitionsWith(
  { expanded }: Stage,
  isSo: (changes: readonly Change[]) => boolean,
): { readonly interactable: string; readonly row: PlacedTransition }[] {
  return expanded.interactables.flatMap(({ name, transitions }) =>
    transitions.flatMap((row) => (isSo(row.changes) ? [{ interactable: name, row }] : [])),
  )
}

function sets(changes: readonly Change[], flag: number, to: boolean): boolean {
  return changes.some((change) => change.kind === 'set' && change.flag === flag && change.to === to)
}

function touches(changes: readonly Change[], flag: number): boolean {
  return changes.some((change) => change.kind === 'set' && change.flag === flag)
}
