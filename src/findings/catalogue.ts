import { badValue } from './bad-value.ts'
import { deadTransition } from './dead-transition.ts'
import { duplicateName } from './duplicate-name.ts'
import { noGoal } from './no-goal.ts'
import { outOfReach } from './out-of-reach.ts'
import type { Rule } from './rule.ts'
import { silentRefusal } from './silent-refusal.ts'
import { softLock } from './soft-lock.ts'
import { unknownName } from './unknown-name.ts'
import { unreachableGoal } from './unreachable-goal.ts'
import { unreachableState } from './unreachable-state.ts'
import { wastedItem } from './wasted-item.ts'

/** All rules, in the order of the design: names and values, space, behaviour, feedback. */
export const rules: readonly Rule[] = [
  unknownName,
  duplicateName,
  badValue,
  noGoal,
  outOfReach,
  unreachableState,
  deadTransition,
  unreachableGoal,
  softLock,
  wastedItem,
  silentRefusal,
]
