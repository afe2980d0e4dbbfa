import type { Reason } from '../../model/index.ts'

/** Why a press was refused, in a word or two; of what is always refused there is nothing to say. */
export const reasonTexts: Readonly<Record<Reason, string>> = {
  carries: 'item missing',
  'room-for': 'no room',
  'something-fits': 'no room',
  acts: 'not for this character',
  remembers: 'what it remembers',
  contains: 'what it contains',
  empty: 'what it contains',
  interactable: 'the state of another interactable',
  flag: 'a flag',
  counter: 'a counter',
  inside: 'who is inside',
  dial: 'another combination',
  not: 'something that must not be so',
  always: '',
}
