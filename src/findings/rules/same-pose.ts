import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface SamePoseFacts {
  readonly interactable: string
  readonly blocking: string
  readonly free: string
  readonly pose: 0 | 1
}

/** A body that moves, and that stands the same in a state that blocks and in one that does not. */
export const samePose: Rule<SamePoseFacts> = {
  name: 'same-pose',
  severity: 'warning',
  isByLevel: true,
  ask: ({ stage: { expanded, space } }) =>
    expanded.interactables.flatMap(({ index, name, states }) => {
      const isMoving = states.some(({ motion }) => motion !== null)
      if (!isMoving || space.layout.figures[index]!.body === null) return []
      const own = states.filter((state) => !state.isSpare && state.pose !== null && state.motion === null)
      const pair = own
        .filter(({ blocksWalk }) => blocksWalk)
        .flatMap((blocking) =>
          own.flatMap((free) => (!free.blocksWalk && free.pose === blocking.pose ? [{ blocking, free }] : [])),
        )[0]
      if (!pair) return [ruledOut(name)]
      const { blocking, free } = pair
      const facts = { interactable: name, blocking: blocking.name, free: free.name, pose: blocking.pose ?? 0 } as const
      return [found(name, { path: free.path, facts, steps: [], grant: null })]
    }),
  says({ interactable, blocking, free, pose }) {
    return `${interactable} stands the same while ${blocking}, when it blocks the way, and while ${free}, when it does not: both have pose ${String(pose)}.`
  },
  fix({ free, pose }) {
    return `Give ${free} the pose that it is moved into: pose: ${pose === 0 ? '1' : '0'}.`
  },
}
