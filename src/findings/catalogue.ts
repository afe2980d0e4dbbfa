import { answersNothing } from './answers-nothing.ts'
import { badValue } from './bad-value.ts'
import { blockedStart } from './blocked-start.ts'
import { copiedReference } from './copied-reference.ts'
import { deadTransition } from './dead-transition.ts'
import { duplicateName } from './duplicate-name.ts'
import { idleAcceptance } from './idle-acceptance.ts'
import { itemForNothing } from './item-for-nothing.ts'
import { leftoverAid } from './leftover-aid.ts'
import { lockWithoutItem } from './lock-without-item.ts'
import { lockedAgain } from './locked-again.ts'
import { lostItem } from './lost-item.ts'
import { metAtOnce } from './met-at-once.ts'
import { missingPrompt } from './missing-prompt.ts'
import { neverBlocks } from './never-blocks.ts'
import { neverHeard } from './never-heard.ts'
import { noGoal } from './no-goal.ts'
import { noWayOut } from './no-way-out.ts'
import { oddCopy } from './odd-copy.ts'
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
import { stuck } from './stuck.ts'
import { stuckPrompt } from './stuck-prompt.ts'
import { unheardSignal } from './unheard-signal.ts'
import { unknownName } from './unknown-name.ts'
import { unlistedLevel } from './unlisted-level.ts'
import { unreachableGoal } from './unreachable-goal.ts'
import { unreachableState } from './unreachable-state.ts'
import { unsentSignal } from './unsent-signal.ts'
import { wastedItem } from './wasted-item.ts'
import { wrongItemTold } from './wrong-item-told.ts'

/** The rules by what they look at, in the order in which one would mend what they find. */
export const ruleGroups: Readonly<Record<string, readonly Rule[]>> = {
  'names and values': [
    unknownName,
    duplicateName,
    badValue,
    blockedStart,
    unlistedLevel,
    copiedReference,
    oddCopy,
    answersNothing,
    noWayOut,
    overlappingGuards,
    unsentSignal,
    unheardSignal,
    lockWithoutItem,
    itemForNothing,
    neverBlocks,
    leftoverAid,
    oppositeFlags,
    noGoal,
    metAtOnce,
    idleAcceptance,
  ],
  space: [outOfReach],
  behaviour: [
    unreachableState,
    deadTransition,
    unreachableGoal,
    softLock,
    wastedItem,
    stuck,
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
    wrongItemTold,
    neverHeard,
  ],
}

/** All rules, group by group. */
export const rules: readonly Rule[] = Object.values(ruleGroups).flat()
