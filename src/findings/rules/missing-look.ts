import { fillIn, likely } from '../shared/edits.ts'
import { listed } from '../shared/texts.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface MissingLookFacts {
  readonly type: string
  readonly state: string
  /** The states that say how they look. */
  readonly others: readonly string[]
}

/** A state that does not say how it looks, where all others of its type do. */
export const missingLook: Rule<MissingLookFacts> = {
  name: 'missing-look',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    const seen = new Set<string>()
    return expanded.interactables.flatMap(({ type, states }) => {
      const own = states.filter(({ path, motion }) => path.startsWith('types.') && !motion)
      const bare = own.filter(({ look }) => look === null)
      const [only] = bare
      if (seen.has(type) || own.length < 2 || own.length === bare.length) return []
      seen.add(type)
      if (bare.length !== 1 || !only) return [ruledOut(type)]
      const others = own.flatMap(({ name, look }) => (look === null ? [] : [name]))
      const facts = { type, state: only.name, others }
      return [found(type, { path: only.path, facts, steps: [], grant: null })]
    })
  },
  says({ type, state, others }) {
    return `The file says how ${type} looks while ${listed(others)}, but not while ${state}.`
  },
  fix() {
    return 'Say how it looks: what it says is shown wherever the level is played.'
  },
  edit({ path }) {
    return likely({ do: 'add', path, key: 'look', value: `${fillIn} how it looks)` })
  },
}
