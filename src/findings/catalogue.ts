import { brokenRequirement } from './rules/broken-requirement.ts'
import { silentGuard } from './rules/silent-guard.ts'
import { duplicateCondition } from './rules/duplicate-condition.ts'
import { unusedType } from './rules/unused-type.ts'
import { idleFlag } from './rules/idle-flag.ts'
import { tooFewItems } from './rules/too-few-items.ts'
import { repeatingToggle } from './rules/repeating-toggle.ts'
import { sameState } from './rules/same-state.ts'
import { unevenBlocking } from './rules/uneven-blocking.ts'
import { leaksWhenShut } from './rules/leaks-when-shut.ts'
import { blocksWhenOpen } from './rules/blocks-when-open.ts'
import { strayInitialPose } from './rules/stray-initial-pose.ts'
import { takenAtStart } from './rules/taken-at-start.ts'
import { passingStart } from './rules/passing-start.ts'
import { sameAnswer } from './rules/same-answer.ts'
import { untoldChange } from './rules/untold-change.ts'
import { missingLook } from './rules/missing-look.ts'
import { refusalWords } from './rules/refusal-words.ts'
import { repeatedOnEntry } from './rules/repeated-on-entry.ts'
import { strayIcon } from './rules/stray-icon.ts'
import { oddSound } from './rules/odd-sound.ts'
import { inertInteractable } from './rules/inert-interactable.ts'
import { badValue } from './rules/bad-value.ts'
import { blockedStart } from './rules/blocked-start.ts'
import { staleReference } from './rules/stale-reference.ts'
import { cutOffRoom } from './rules/cut-off-room.ts'
import { deadTransition } from './rules/dead-transition.ts'
import { duplicateName } from './rules/duplicate-name.ts'
import { staleAcceptance } from './rules/stale-acceptance.ts'
import { unusedItem } from './rules/unused-item.ts'
import { leftoverTestOnly } from './rules/leftover-test-only.ts'
import { unobtainableItem } from './rules/unobtainable-item.ts'
import { lockedAgain } from './rules/locked-again.ts'
import { lostItem } from './rules/lost-item.ts'
import { forgottenFlag } from './rules/forgotten-flag.ts'
import { goalAlreadyMet } from './rules/goal-already-met.ts'
import { missingPrompt } from './rules/missing-prompt.ts'
import { neverBlocks } from './rules/never-blocks.ts'
import { unusedFeedback } from './rules/unused-feedback.ts'
import { noGoal } from './rules/no-goal.ts'
import { noWayOut } from './rules/no-way-out.ts'
import { inconsistentInstance } from './rules/inconsistent-instance.ts'
import { oneChannel } from './rules/one-channel.ts'
import { oppositeFlags } from './rules/opposite-flags.ts'
import { outOfReach } from './rules/out-of-reach.ts'
import { outsideRooms } from './rules/outside-rooms.ts'
import { overlappingGuards } from './rules/overlapping-guards.ts'
import { repeatedFeedback } from './rules/repeated-feedback.ts'
import type { Rule } from './rule.ts'
import { sameLook } from './rules/same-look.ts'
import { signalStorm } from './rules/signal-storm.ts'
import { silentChange } from './rules/silent-change.ts'
import { silentRefusal } from './rules/silent-refusal.ts'
import { softLock } from './rules/soft-lock.ts'
import { stuckState } from './rules/stuck-state.ts'
import { stuckPrompt } from './rules/stuck-prompt.ts'
import { unaskedItem } from './rules/unasked-item.ts'
import { unheardSignal } from './rules/unheard-signal.ts'
import { unknownName } from './rules/unknown-name.ts'
import { unlistedLevel } from './rules/unlisted-level.ts'
import { unreachableGoal } from './rules/unreachable-goal.ts'
import { unreachableState } from './rules/unreachable-state.ts'
import { unsentSignal } from './rules/unsent-signal.ts'
import { wastedItem } from './rules/wasted-item.ts'
import { wayRound } from './rules/way-round.ts'
import { withoutEffect } from './rules/without-effect.ts'
import { wrongItemNamed } from './rules/wrong-item-named.ts'

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
    unaskedItem,
    withoutEffect,
    leftoverTestOnly,
    oppositeFlags,
    noGoal,
    goalAlreadyMet,
    staleAcceptance,
    unusedType,
    idleFlag,
    tooFewItems,
    repeatingToggle,
    sameState,
    duplicateCondition,
    unevenBlocking,
    forgottenFlag,
  ],
  space: [cutOffRoom, outsideRooms, outOfReach, wayRound, leaksWhenShut, blocksWhenOpen, strayInitialPose],
  behaviour: [
    unreachableState,
    deadTransition,
    unreachableGoal,
    softLock,
    wastedItem,
    stuckState,
    brokenRequirement,
    signalStorm,
    lostItem,
    lockedAgain,
    takenAtStart,
    passingStart,
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
    sameAnswer,
    silentGuard,
    untoldChange,
    missingLook,
    refusalWords,
    repeatedOnEntry,
    strayIcon,
    oddSound,
  ],
}

/** All rules, group by group. */
export const rules: readonly Rule[] = Object.values(ruleGroups).flat()
