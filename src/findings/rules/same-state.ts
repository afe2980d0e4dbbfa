import { somePart } from '../shared/conditions.ts'
import { askedByPlans, type Check, type Expanded, type Placed } from '../../interactables/index.ts'
import { looksAlike } from '../shared/looks.ts'
import { found, type Rule, ruledOut } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface SameStateFacts {
  readonly type: string
  readonly states: readonly [string, string]
}

/** Two states of a type that look alike, do the same, and that nothing tells apart. */
export const sameState: Rule<SameStateFacts> = {
  name: 'same-state',
  severity: 'advice',
  isByLevel: true,
  ask({ stage: { expanded } }) {
    const seen = new Set<string>()
    return expanded.interactables.flatMap((placed) => {
      if (seen.has(placed.type) || expanded.level.types?.[placed.type] === undefined) return []
      seen.add(placed.type)
      for (const [one, { path }] of placed.states.entries()) {
        if (!path.startsWith('types.')) continue
        for (let other = one + 1; other < placed.states.length; other++) {
          if (!isSame(expanded, placed, one, other)) continue
          const [a, b] = [placed.states[one]!, placed.states[other]!]
          const facts = { type: placed.type, states: [a.name, b.name] } as const
          return [found(placed.type, { path: b.path, facts, steps: [], grant: null })]
        }
      }
      return [ruledOut(placed.type)]
    })
  },
  says({ type, states }) {
    return `The states ${states[0]} and ${states[1]} of ${type} look alike, do the same, and nothing tells them apart.`
  },
  fix() {
    return 'Make one state of them, or say what sets them apart.'
  },
}

function isSame(expanded: Expanded, placed: Placed, one: number, other: number): boolean {
  const { states, transitions } = placed
  const [a, b] = [states[one]!, states[other]!]
  const behaves = ({ blocksWalk, blocksSight, blocksCamera, ignoresPress, dials, lasting }: typeof a): string =>
    JSON.stringify([blocksWalk, blocksSight, blocksCamera, ignoresPress, dials, lasting])
  if (!looksAlike(placed, one, other) || behaves(a) !== behaves(b)) return false
  // Leading to either of the two is the same.
  const from = (state: number): string =>
    JSON.stringify(
      transitions
        .filter((row) => row.from.includes(state))
        .map((row) => [
          row.to === null || row.to === one || row.to === other ? 'one of them' : row.to,
          row.when,
          row.roles,
          row.guard,
          row.changes,
          row.feedback,
          row.refused,
        ]),
    )
  return from(one) === from(other) && !isToldApart(expanded, placed.index, one, other)
}

/** Whether a goal, or anything else, asks about one of two states and not about the other. */
function isToldApart(
  { goals, requirements, interactables }: Expanded,
  machine: number,
  one: number,
  other: number,
): boolean {
  const asks = (check: Check): boolean =>
    somePart(
      check,
      (part) =>
        part.kind === 'state' &&
        part.interactable === machine &&
        part.states.includes(one) !== part.states.includes(other),
    )
  const rows = interactables.flatMap(({ transitions }) => transitions)
  return (
    askedByPlans({ goals, requirements }).some(({ check }) => asks(check)) ||
    rows.some(({ guard, when }) => asks(guard) || (when.kind === 'becomes' && asks(when.check)))
  )
}
