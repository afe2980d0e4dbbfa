import { badArrival } from './rules/bad-arrival.ts'
import { badValue } from './rules/bad-value.ts'
import { blockedStart } from './rules/blocked-start.ts'
import { blocksWhenOpen } from './rules/blocks-when-open.ts'
import { bounce } from './rules/bounce.ts'
import { brokenRequirement } from './rules/broken-requirement.ts'
import { contestedRange } from './rules/contested-range.ts'
import { bypassedLock } from './rules/bypassed-lock.ts'
import { cutOffRoom } from './rules/cut-off-room.ts'
import { deadTransition } from './rules/dead-transition.ts'
import { duplicateCondition } from './rules/duplicate-condition.ts'
import { duplicateName } from './rules/duplicate-name.ts'
import { forgottenFlag } from './rules/forgotten-flag.ts'
import { goalAlreadyMet } from './rules/goal-already-met.ts'
import { hiddenByNeighbour } from './rules/hidden-by-neighbour.ts'
import { idleFlag } from './rules/idle-flag.ts'
import { inconsistentInstance } from './rules/inconsistent-instance.ts'
import { inertInteractable } from './rules/inert-interactable.ts'
import { leaksWhenShut } from './rules/leaks-when-shut.ts'
import { leftoverTestOnly } from './rules/leftover-test-only.ts'
import { lockedAgain } from './rules/locked-again.ts'
import { lostItem } from './rules/lost-item.ts'
import { missingLook } from './rules/missing-look.ts'
import { missingPrompt } from './rules/missing-prompt.ts'
import { narrowDoorway } from './rules/narrow-doorway.ts'
import { neverBlocks } from './rules/never-blocks.ts'
import { noGoal } from './rules/no-goal.ts'
import { neverGivesWay } from './rules/never-gives-way.ts'
import { noWayOut } from './rules/no-way-out.ts'
import { oddSound } from './rules/odd-sound.ts'
import { oneChannel } from './rules/one-channel.ts'
import { oneSided } from './rules/one-sided.ts'
import { oppositeFlags } from './rules/opposite-flags.ts'
import { outOfReach } from './rules/out-of-reach.ts'
import { outsideRooms } from './rules/outside-rooms.ts'
import { overlappingGuards } from './rules/overlapping-guards.ts'
import { passingStart } from './rules/passing-start.ts'
import { reachThrough } from './rules/reach-through.ts'
import { refusalWords } from './rules/refusal-words.ts'
import { repeatedFeedback } from './rules/repeated-feedback.ts'
import { repeatedOnEntry } from './rules/repeated-on-entry.ts'
import { repeatingToggle } from './rules/repeating-toggle.ts'
import { sameAnswer } from './rules/same-answer.ts'
import { sameLook } from './rules/same-look.ts'
import { samePose } from './rules/same-pose.ts'
import { sameState } from './rules/same-state.ts'
import { signalStorm } from './rules/signal-storm.ts'
import { silentChange } from './rules/silent-change.ts'
import { silentGuard } from './rules/silent-guard.ts'
import { silentRefusal } from './rules/silent-refusal.ts'
import { softLock } from './rules/soft-lock.ts'
import { staleAcceptance } from './rules/stale-acceptance.ts'
import { staleReference } from './rules/stale-reference.ts'
import { strayIcon } from './rules/stray-icon.ts'
import { strayInitialPose } from './rules/stray-initial-pose.ts'
import { strayPose } from './rules/stray-pose.ts'
import { stuckPrompt } from './rules/stuck-prompt.ts'
import { stuckState } from './rules/stuck-state.ts'
import { closesOnCharacter } from './rules/closes-on-character.ts'
import { swingBlocked } from './rules/swing-blocked.ts'
import { takenAtStart } from './rules/taken-at-start.ts'
import { tooFewItems } from './rules/too-few-items.ts'
import { tooLate } from './rules/too-late.ts'
import { unaskedItem } from './rules/unasked-item.ts'
import { unevenBlocking } from './rules/uneven-blocking.ts'
import { unheardSignal } from './rules/unheard-signal.ts'
import { unknownName } from './rules/unknown-name.ts'
import { unlistedLevel } from './rules/unlisted-level.ts'
import { unobtainableItem } from './rules/unobtainable-item.ts'
import { unreachableGoal } from './rules/unreachable-goal.ts'
import { unreachableState } from './rules/unreachable-state.ts'
import { unreachedLevel } from './rules/unreached-level.ts'
import { unsentSignal } from './rules/unsent-signal.ts'
import { untoldChange } from './rules/untold-change.ts'
import { untoldOthers } from './rules/untold-others.ts'
import { unusedFeedback } from './rules/unused-feedback.ts'
import { unusedItem } from './rules/unused-item.ts'
import { unusedType } from './rules/unused-type.ts'
import { wastedItem } from './rules/wasted-item.ts'
import { wayRound } from './rules/way-round.ts'
import { withoutEffect } from './rules/without-effect.ts'
import { wrongItemNamed } from './rules/wrong-item-named.ts'
import { wrongCharacter } from './rules/wrong-character.ts'
import { trapped } from './rules/trapped.ts'
import { cannotLeave } from './rules/cannot-leave.ts'
import type { Rule } from './rule.ts'

/** The rules by what they look at, in the order in which one would fix what they find. */
export const ruleGroups: Readonly<Record<string, readonly Rule[]>> = {
  'names and values': [
    unknownName,
    duplicateName,
    badValue,
    blockedStart,
    unlistedLevel,
    unreachedLevel,
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
    neverGivesWay,
    bypassedLock,
    untoldOthers,
    wrongCharacter,
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
  space: [
    narrowDoorway,
    cutOffRoom,
    outsideRooms,
    outOfReach,
    hiddenByNeighbour,
    contestedRange,
    reachThrough,
    oneSided,
    swingBlocked,
    closesOnCharacter,
    strayPose,
    samePose,
    wayRound,
    leaksWhenShut,
    blocksWhenOpen,
    strayInitialPose,
    bounce,
    badArrival,
  ],
  behaviour: [
    unreachableState,
    deadTransition,
    tooLate,
    unreachableGoal,
    softLock,
    wastedItem,
    trapped,
    cannotLeave,
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
