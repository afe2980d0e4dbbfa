import { likely } from '../shared/edits.ts'
import type { PlacedMotion } from '../../interactables/index.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface StrayInitialPoseFacts {
  readonly interactable: string
  readonly state: string
  readonly pose: 0 | 1
}

/** Something that begins in a state that it otherwise moves into, and stands at the other end of that motion. */
export const strayInitialPose: Rule<StrayInitialPoseFacts> = {
  name: 'stray-initial-pose',
  severity: 'warning',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    return expanded.interactables.flatMap(({ name, path, states, initial, transitions }) => {
      const state = states[initial]!
      if (!state.path.startsWith('types.') || state.motion !== null) return []
      const ends = transitions.flatMap(({ from, to, when }) =>
        when.kind === 'motion-end' && to === initial ? from.flatMap((one) => poseAfter(states[one]!.motion)) : [],
      )
      const [pose] = ends
      if (pose === undefined) return []
      const isStray = ends.every((end) => end === pose) && (state.pose ?? 0) !== pose
      if (!isStray) return [ruledOut(name)]
      const isGiven = expanded.level.interactables?.[name]?.initial !== undefined
      const facts = { interactable: name, state: state.name, pose }
      return [found(name, { path: isGiven ? `${path}.initial` : state.path, facts, steps: [], grant: null })]
    })
  },
  says({ interactable, state, pose }) {
    return `${interactable} begins ${state}, but stands there as if it were ${pose === 1 ? 'shut' : 'open'}: it comes to ${state} by moving to pose ${String(pose)}, and at the start it has not moved.`
  },
  fix({ state, pose }) {
    return `Give ${state} the pose it is in: pose: ${String(pose)}.`
  },
  edit({ stage, facts }) {
    const placed = stage.expanded.interactables.find(({ name }) => name === facts.interactable)
    const state = placed?.states.find(({ name }) => name === facts.state)
    if (!state) return null
    return state.pose === null
      ? likely({ do: 'add', path: state.path, key: 'pose', value: facts.pose })
      : likely({ do: 'replace', path: `${state.path}.pose`, value: facts.pose })
  },
}

/** The pose that a motion ends in; none where it does not lead away from where the body was shut. */
function poseAfter(motion: PlacedMotion | null): (0 | 1)[] {
  const leadsAway =
    motion !== null && (motion.kind === 'vanish' || motion.turn !== 0 || motion.slide.some((way) => way !== 0))
  return leadsAway ? [motion.to] : []
}
