import { inertInteractable } from './inert-interactable.ts'
import { badValue } from './bad-value.ts'
import { blockedStart } from './blocked-start.ts'
import { staleReference } from './stale-reference.ts'
import { deadTransition } from './dead-transition.ts'
import { duplicateName } from './duplicate-name.ts'
import { staleAcceptance } from './stale-acceptance.ts'
import { unusedItem } from './unused-item.ts'
import { leftoverTestOnly } from './leftover-test-only.ts'
import { unobtainableItem } from './unobtainable-item.ts'
import { lockedAgain } from './locked-again.ts'
import { lostItem } from './lost-item.ts'
import { goalAlreadyMet } from './goal-already-met.ts'
import { missingPrompt } from './missing-prompt.ts'
import { neverBlocks } from './never-blocks.ts'
import { unusedFeedback } from './unused-feedback.ts'
import { noGoal } from './no-goal.ts'
import { noWayOut } from './no-way-out.ts'
import { inconsistentInstance } from './inconsistent-instance.ts'
import { oneChannel } from './one-channel.ts'
import { oppositeFlags } from './opposite-flags.ts'
import { outOfReach } from './out-of-reach.ts'
import { overlappingGuards } from './overlapping-guards.ts'
import { repeatedFeedback } from './repeated-feedback.ts'
import type { Rule } from './rule.ts'
import { sameLook } from './same-look.ts'
import { signalStorm } from './signal-storm.ts'
import { silentChange } from './silent-change.ts'
import { silentRefusal } from './silent-refusal.ts'
import { softLock } from './soft-lock.ts'
import { stuckState } from './stuck-state.ts'
import { stuckPrompt } from './stuck-prompt.ts'
import { unheardSignal } from './unheard-signal.ts'
import { unknownName } from './unknown-name.ts'
import { unlistedLevel } from './unlisted-level.ts'
import { unreachableGoal } from './unreachable-goal.ts'
import { unreachableState } from './unreachable-state.ts'
import { unsentSignal } from './unsent-signal.ts'
import { wastedItem } from './wasted-item.ts'
import { wrongItemNamed } from './wrong-item-named.ts'

/** The rules by what they look at, in the order in which one would fix what they find. */
export const ruleGroups: Readonly<Record<string, readonly Rule[]>> = {
  'names and values': [
    unknownName,
    duplicateName,
    badValue,
    blockedStart,
    unlistedLevel,
    staleReference,
    inconsistentInstance,
    inertInteractable,
    noWayOut,
    overlappingGuards,
    unsentSignal,
    unheardSignal,
    unobtainableItem,
    unusedItem,
    neverBlocks,
    leftoverTestOnly,
    oppositeFlags,
    noGoal,
    goalAlreadyMet,
    staleAcceptance,
  ],
  space: [outOfReach],
  behaviour: [
    unreachableState,
    deadTransition,
    unreachableGoal,
    softLock,
    wastedItem,
    stuckState,
    signalStorm,
    lostItem,
    lockedAgain,
  ],
  feedback: [
    silentRefusal,
    silentChange,
    repeatedFeedback,
    stuckPrompt,
    missingPrompt,
    sameLook,
    oneChannel,
    wrongItemNamed,
    unusedFeedback,
  ],
}

/** All rules, group by group. */
export const rules: readonly Rule[] = Object.values(ruleGroups).flat()
