import { found, type Rule, ruledOut } from '../rule.ts'
import { leavesOf, shareInDoorway } from '../shared/leaves.ts'

/** What is known of a finding of this rule. */
export interface StrayPoseFacts {
  readonly interactable: string
  readonly doorway: string
  /** How much of its leaf still stands in the doorway, in percent. */
  readonly percent: number
}

/** More than this of a leaf is too much to be left in the opening. */
const most = 0.5

/** A leaf that still stands in its doorway when it is open, as one sees it: its motion does not go far enough, or leads nowhere. */
export const strayPose: Rule<StrayPoseFacts> = {
  name: 'stray-pose',
  severity: 'warning',
  isByLevel: true,
  ask: ({ stage }) =>
    leavesOf(stage).flatMap((leaf) => {
      const { name, path, doorway, states } = leaf.placed
      // What blocks all the same is not meant to let anybody through.
      if (doorway === null || states.every((state) => state.isSpare || state.blocksWalk)) return []
      const share = shareInDoorway(stage, leaf)
      if (share <= most) return [ruledOut(name)]
      const facts = { interactable: name, doorway, percent: Math.round(share * 100) }
      return [found(name, { path, isAboutKey: true, facts, steps: [], grant: null })]
    }),
  says({ interactable, doorway, percent }) {
    return `${interactable} still stands in ${doorway} when it is open: ${String(percent)} % of its leaf is in the opening, though players walk through.`
  },
  fix() {
    return 'Let it turn, or slide, farther.'
  },
}
