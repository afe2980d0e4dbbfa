import type { Lookout } from '../explore/index.ts'
import type { Play, Stage } from '../play/index.ts'

const noticedStart = 'noticed '
const ignoredStart = 'ignored '

/** The key for an interactable that a press could go to. */
export function noticedKey(interactable: string): string {
  return noticedStart + interactable
}

/** The key for an interactable that ignores a press though its prompt asks for one. */
export function ignoredKey(interactable: string): string {
  return ignoredStart + interactable
}

/** Looks out for interactables that a press could go to. */
export function noticedLookout(stage: Stage): Lookout {
  const keys = stage.expanded.interactables.map(({ name }) => noticedKey(name))
  const silent = stage.expanded.interactables.map((_, machine) => lacksPrompt(stage, machine))
  return {
    isBeforePress: true,
    isFault: (key) => silent[keys.indexOf(key)]!,
    isKnown: (key, moments) => {
      const machine = keys.indexOf(key)
      return !silent[machine]! && moments.has(`${String(machine)} noticed`)
    },
    onPress: ({ machine }, see) => {
      see(keys[machine]!)
    },
    isShown: (key, play) => isCandidate(play, keys.indexOf(key)),
  }
}

/** Whether nothing announces an interactable, where most of the others that can be pressed are announced, at least two. */
export function lacksPrompt({ expanded }: Stage, machine: number): boolean {
  const isAnnounced = (index: number): boolean => (expanded.interactables[index]!.feedback.noticed ?? []).length > 0
  if (isAnnounced(machine)) return false
  const others = expanded.interactables.filter(
    ({ index, transitions }) => index !== machine && transitions.some(({ when }) => when.kind === 'press'),
  )
  const announced = others.filter(({ index }) => isAnnounced(index)).length
  return announced >= 2 && 2 * announced > others.length
}

/** Looks out for prompts that ask for a press that is ignored. */
export function ignoredLookout(stage: Stage): Lookout {
  const { interactables } = stage.expanded
  const keys = interactables.map(({ name }) => ignoredKey(name))
  const shows = interactables.map(({ feedback }) =>
    (feedback.noticed ?? []).some(({ prompt, shown }) => prompt !== undefined && shown !== 'if-accepted'),
  )
  return {
    isFault: () => true,
    onPress: ({ machine, rows, regs, ask }, see) => {
      if (!shows[machine]! || rows.length > 0 || ask !== 0) return
      const { holds, releases, motion, ignoresPress } = stage.tables.states[machine]![regs[machine]!]!
      // A prompt is not shown while its interactable ignores presses on purpose.
      if (holds.length + releases.length === 0 && !motion && !ignoresPress) see(keys[machine]!)
    },
    isShown: (key, play) => {
      const last = play.log.findLast(({ what }) => what !== 'feedback')
      return last?.what === 'press' && last.outcome === 'ignored' && ignoredKey(last.interactable ?? '') === key
    },
  }
}

/** Whether a press of some kind, by somebody, would go to an interactable where a play stands. */
function isCandidate(play: Play, machine: number): boolean {
  const { characters, asks } = play.stage.expanded
  return characters.some((_, who) => asks.some((_, ask) => play.candidates(who, ask)[0] === machine))
}
