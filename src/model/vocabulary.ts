/** The version of the level format that is read. */
export const levelVersion = 1

/** Who can act: a player, somebody who goes along with one, or anything else that walks. */
export const roles = ['player', 'companion', 'creature'] as const

/** Who can act. */
export type Role = (typeof roles)[number]

/** The ways to perceive something; `hide` takes an icon off the screen. */
export const channels = [
  'sound',
  'message',
  'prompt',
  'popup',
  'highlight',
  'light',
  'shake',
  'burst',
  'icon',
  'hide',
  'rumble',
] as const

/** A way to perceive something. */
export type Channel = (typeof channels)[number]

/** Why a press was refused: the kind of condition that did not hold; `always`: it never is accepted there. */
export const reasons = [
  'carries',
  'room-for',
  'something-fits',
  'acts',
  'remembers',
  'contains',
  'empty',
  'interactable',
  'flag',
  'counter',
  'inside',
  'dial',
  'not',
  'always',
] as const

/** Why a press was refused. */
export type Reason = (typeof reasons)[number]

/** The moments of an interactable that can have feedback. */
export const moments = [
  'focused',
  'accepted',
  'refused',
  'missing',
  'too-full',
  'started',
  'finished',
  'gained',
  'consumed',
] as const

/** A moment of an interactable that can have feedback. */
export type Moment = (typeof moments)[number]

/** The channel of an entry. */
export function channelOf(entry: Partial<Record<Channel, unknown>>): Channel {
  return channels.find((channel) => entry[channel] !== undefined) ?? 'message'
}

/** Whether a key is the reader's own, and left alone. */
export function isExtra(key: string): boolean {
  return key.startsWith('x-')
}

/** Whole milliseconds of a number of seconds. */
export function milliseconds(value: number): number {
  return Math.round(value * 1000)
}
