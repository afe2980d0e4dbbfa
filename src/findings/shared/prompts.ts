import type { Observation } from '../../explore/index.ts'
import type { Check } from '../../interactables/index.ts'
import { unmetParts } from '../../machine/index.ts'
import type { Play, Stage } from '../../play/index.ts'
import { pressOn } from './steps.ts'

const focusedStart = 'focused '
const vainStart = 'in-vain '
const acceptedStart = 'accepts '

/** The key for an interactable that a press could go to. */
export function focusedKey(interactable: string): string {
  return focusedStart + interactable
}

/** The key for a prompt that goes on asking a character for what the interactable has no more of for that one. */
export function vainKey(interactable: string, character: string): string {
  return `${vainStart}${interactable}/${character}`
}

/** Looks out for interactables that a press could go to. */
export function focusedObservation(stage: Stage): Observation {
  const keys = stage.expanded.interactables.map(({ name }) => focusedKey(name))
  const silent = stage.expanded.interactables.map((_, machine) => lacksPrompt(stage, machine))
  return {
    isBeforePress: true,
    isFault: (key) => silent[keys.indexOf(key)]!,
    isKnown: (key, moments) => {
      const machine = keys.indexOf(key)
      return !silent[machine]! && moments.has(`${String(machine)} focused`)
    },
    onPress: ({ machine }, see) => {
      see(keys[machine]!)
    },
    isShown: (key, play) => isCandidate(play, keys.indexOf(key)),
  }
}

/** Whether nothing announces an interactable, where all others that can be pressed are announced, or most of them and at least two. */
export function lacksPrompt({ expanded }: Stage, machine: number): boolean {
  const isAnnounced = (index: number): boolean => (expanded.interactables[index]!.feedback.focused ?? []).length > 0
  if (isAnnounced(machine)) return false
  const others = expanded.interactables.filter(
    ({ index, transitions, wheels }) =>
      index !== machine &&
      (wheels.length > 0 || transitions.some(({ when }) => when.kind === 'press' || when.kind === 'hold')),
  )
  const announced = others.filter(({ index }) => isAnnounced(index)).length
  return announced > 0 && (announced === others.length || (announced >= 2 && 2 * announced > others.length))
}

/**
 * Looks out for prompts that ask for a press which is refused since of what the interactable remembers or holds, and which
 * can never be accepted any more.
 */
export function vainLookout(stage: Stage): Observation {
  const { interactables, characters } = stage.expanded
  const shows = interactables.map(({ feedback }) =>
    (feedback.focused ?? []).some(({ prompt, shown }) => prompt !== undefined && shown !== 'if-accepted'),
  )
  const keys = interactables.map(({ name }) => characters.map((person) => vainKey(name, person.name)))
  const accepted = (key: string): string => acceptedStart + key.slice(vainStart.length)
  const read = (key: string): { machine: number; who: number } => {
    const machine = keys.findIndex((own) => own.includes(key))
    return { machine, who: keys[machine]!.indexOf(key) }
  }
  return {
    isBeforePress: true,
    isFault: (key) => key.startsWith(vainStart),
    // That a press is accepted is only asked to know from where it still can be.
    isKnown: (key) => !key.startsWith(vainStart),
    forGood: (key) => (key.startsWith(vainStart) ? accepted(key) : null),
    onPress: ({ machine, rows, regs, actor }, see) => {
      if (!shows[machine]!) return
      const key = keys[machine]![actor]!
      const { holds, releases } = stage.tables.states[machine]![regs[machine]!]!
      if (holds.length + releases.length > 0 || rows.some(({ guard }) => guard(regs, actor))) see(accepted(key))
      else if (rows.some((row) => unmetParts(row.transition.guard, stage.tables, regs, actor).some(isUsedUp))) see(key)
    },
    isShown: (key, play) => {
      const { machine, who } = read(key)
      return isPrompting(play, machine, who)
    },
    goOn: (key, play) => {
      const press = pressOn(play, read(key).machine, 0)
      return press ? [press] : []
    },
  }
}

/** Whether a condition that does not hold is about what was had of an interactable, or is no more in it. */
function isUsedUp(check: Check): boolean {
  if (check.kind === 'not') return isUsedUp(check.check)
  return check.kind === 'remembers' || check.kind === 'contains' || check.kind === 'empty'
}

/** Whether the first thing that would be asked by a character is this one, and it shows its prompt. */
function isPrompting(play: Play, machine: number, who: number): boolean {
  const { pressKinds } = play.stage.expanded
  const asked = new Set(pressKinds.map((_, pressKind) => play.candidates(who, pressKind)[0]))
  return play.within(who).find((one) => asked.has(one)) === machine && play.view(who).prompts.length > 0
}

/** Whether a press of some kind, by somebody, would go to an interactable where a play stands. */
function isCandidate(play: Play, machine: number): boolean {
  const { characters, pressKinds } = play.stage.expanded
  return characters.some((_, who) => pressKinds.some((_, pressKind) => play.candidates(who, pressKind)[0] === machine))
}
