import { found, type Rule, ruledOut } from '../rule.ts'
import { answeredShares } from '../shared/neighbours.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface ContestedRangeFacts {
  readonly interactable: string
  readonly by: readonly string[]
  /** How much of the ground from which it could be pressed is left to it, in percent. */
  readonly percent: number
}

/** Less of the ground than this is little. */
const little = 0.2

/** Something to which a press goes from a small part only of where it could: mostly a neighbour answers. */
export const contestedRange: Rule<ContestedRangeFacts> = {
  name: 'contested-range',
  severity: 'advice',
  isByLevel: true,
  ask({ stage }) {
    return answeredShares(stage).flatMap(({ machine, cells, first, by, spot }) => {
      const { name, path } = stage.expanded.interactables[machine]!
      if (cells === 0 || first === 0) return []
      const share = first / cells
      if (share >= little) return [ruledOut(name)]
      const names = by.map((one) => stage.expanded.interactables[one]!.name)
      const facts = { interactable: name, by: names, percent: Math.max(1, Math.round(share * 100)) }
      const spots = [{ at: spot, text: `${names[0] ?? ''} answers for ${name}` }]
      return [found(name, { path: `${path}.at`, facts, steps: [], grant: null, spots })]
    })
  },
  says({ interactable, by, percent }) {
    return `A press goes to ${interactable} from ${String(percent)} % only of the ground from which it is within reach: everywhere else ${listed(by)} ${by.length > 1 ? 'answer' : 'answers'} first.`
  },
  fix({ by }) {
    return `Move it away from ${by[0] ?? ''}, narrow the range of that one, or let both ask to be looked at (aim).`
  },
}
