import type { Stage } from '../../play/index.ts'
import { type Rule, witnessed } from '../rule.ts'
import { setOffBy } from '../shared/steps.ts'

const start = 'opposite '

/** What is known of a finding of this rule. */
export interface OppositeFlagsFacts {
  readonly flags: readonly [string, string]
  readonly both: boolean
}

/** Two flags of which one says the opposite of the other, and that come to say the same. */
export const oppositeFlags: Rule<OppositeFlagsFacts> = {
  name: 'opposite-flags',
  severity: 'warning',
  observation(stage) {
    const pairs = opposites(stage)
    const { at } = stage.tables
    return {
      isFault: () => true,
      onSituation: pairs.map(({ key, one, other }) => (regs, see) => {
        if (regs[at.flag(one)] === regs[at.flag(other)]) see(key)
      }),
      isShown: (key, play) => {
        const pair = pairs.find((known) => known.key === key)!
        return play.isSet(pair.one) === play.isSet(pair.other)
      },
    }
  },
  ask(context) {
    const { stage } = context
    return opposites(stage).map(({ key, one, other }) => {
      const asked = witnessed(context, key.slice(start.length), [key], () => {
        const flags = [one, other].map((flag) => stage.expanded.flags[flag]!.name) as [string, string]
        return { path: null, facts: { flags, both: true }, grant: null }
      })
      const found = asked.found.map((single) => {
        const row = setOffBy(stage, single.steps)
        const both = isSetAfter(stage, row?.transition.changes ?? [], one, other)
        return {
          ...single,
          facts: { ...single.facts, both },
          isPlacedBySteps: true,
          path: row?.transition.path ?? `flags.${stage.expanded.flags[other]!.name}`,
        }
      })
      return { ...asked, found }
    })
  },
  says(facts) {
    return `The flags ${facts.flags[0]} and ${facts.flags[1]} say the opposite of each other, and can come to be ${facts.both ? 'both set' : 'both not set'} at once.`
  },
  fix() {
    return 'Use one flag, and ask for it with is: false where it must not be set; or set both at each place.'
  },
}

/** Whether flags that are alike after these changes are both set: the one that was changed says so. */
function isSetAfter(
  { expanded }: Stage,
  changes: Stage['tables']['rows'][number]['transition']['changes'],
  one: number,
  other: number,
): boolean {
  const last = changes.findLast((change) => change.kind === 'set' && (change.flag === one || change.flag === other))
  return last?.kind === 'set' ? last.to : expanded.flags[one]!.initial
}

/** Flags that begin as opposites, and that some transition turns both, one to each. */
function opposites({ expanded, tables }: Stage): { key: string; one: number; other: number }[] {
  const pairs = new Map<string, { key: string; one: number; other: number }>()
  for (const { transition } of tables.rows) {
    const sets = transition.changes.flatMap((change) => (change.kind === 'set' ? [change] : []))
    for (const a of sets) {
      for (const b of sets) {
        if (a.flag >= b.flag || a.to === b.to) continue
        const [one, other] = [expanded.flags[a.flag]!, expanded.flags[b.flag]!]
        if (one.initial === other.initial) continue
        const key = `${start}${one.name} ${other.name}`
        pairs.set(key, { key, one: a.flag, other: b.flag })
      }
    }
  }
  return [...pairs.values()]
}
