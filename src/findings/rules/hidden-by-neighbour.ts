import type { Stage } from '../../play/index.ts'
import { fromHand, pointsFor } from '../../space/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'
import { inCentimetres, spotText } from '../shared/ground.ts'
import { answeredShares, type Shares } from '../shared/neighbours.ts'
import { listed } from '../shared/texts.ts'

/** What is known of a finding of this rule. */
export interface HiddenByNeighbourFacts {
  readonly interactable: string
  /** What answers in its place. */
  readonly by: readonly string[]
  /** Where one stands who would press it, and how far both handles are from the hand there; metres. */
  readonly at: readonly [number, number]
  readonly distance: number
  readonly nearer: number
}

/** Something that is never what a press goes to: wherever it could answer, something else does, always. */
export const hiddenByNeighbour: Rule<HiddenByNeighbourFacts> = {
  name: 'hidden-by-neighbour',
  severity: 'error',
  isByLevel: true,
  ask({ stage }) {
    return answeredShares(stage).flatMap((shares) => {
      const { name, path } = stage.expanded.interactables[shares.machine]!
      if (shares.cells === 0) return []
      if (shares.first > 0) return [ruledOut(name)]
      const facts = { interactable: name, ...distancesAt(stage, shares) }
      return [
        found(name, {
          path: `${path}.at`,
          facts,
          steps: [],
          grant: { grant: 'reach', machine: shares.machine },
          spots: [{ at: facts.at, text: `${facts.by[0] ?? ''} answers for ${name}` }],
        }),
      ]
    })
  },
  says({ interactable, by, at, distance, nearer }) {
    return `A press never goes to ${interactable}: wherever it is within reach, ${listed(by)} ${by.length > 1 ? 'answer' : 'answers'} first. At ${spotText(at)} the hand is ${nearer.toFixed(2)} m from ${by[0] ?? ''}, and ${distance.toFixed(2)} m from ${interactable}.`
  },
  fix({ by }) {
    return `Move it away from ${by[0] ?? ''}, give it a higher priority, or let both ask to be looked at (aim).`
  },
}

/** Where the handles are for somebody who stands where it is nearest to be pressed. */
function distancesAt(stage: Stage, { machine, spot, by, who }: Shares): Omit<HiddenByNeighbourFacts, 'interactable'> {
  const { hand } = stage.expanded.characters[who]!
  const far = (one: number): number => fromHand(spot, hand, pointsFor(stage.space.layout, one, spot)!.handle)
  const nearest = [...by].sort((a, b) => far(a) - far(b))
  return {
    by: nearest.map((one) => stage.expanded.interactables[one]!.name),
    at: inCentimetres(spot),
    distance: far(machine),
    nearer: far(nearest[0]!),
  }
}
