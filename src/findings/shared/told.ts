import type { CompiledTransition } from '../../machine/index.ts'
import type { Feedback } from '../../model/index.ts'
import type { Stage } from '../../play/index.ts'

/** What is told when a transition is taken: by itself, and by the moments that come with it. */
export function toldBySuccess({ expanded }: Stage, { machine, to, transition }: CompiledTransition): Feedback[] {
  const { feedback, states } = expanded.interactables[machine]!
  const { accepted = [], started = [], finished = [], gained = [], consumed = [] } = feedback
  const does = (...kinds: string[]): boolean => transition.changes.some(({ kind }) => kinds.includes(kind))
  const isAsked = ['press', 'hold', 'release', 'enter', 'leave'].includes(transition.when.kind)
  return [
    ...transition.feedback,
    ...(isAsked ? accepted : []),
    ...(to >= 0 && states[to]!.motion ? started : []),
    ...(transition.when.kind === 'motion-end' ? finished : []),
    ...(does('give', 'take-out') ? gained : []),
    ...(does('consume', 'remove') ? consumed : []),
  ]
}

/** Whether words stand in a text as words of their own, in capitals or not. */
export function isWordIn(words: string, text: string): boolean {
  const plain = spaced(words)
  return plain.trim() !== '' && spaced(text).includes(plain)
}

/** A text without certain words in it. */
export function withoutWords(text: string, words: string): string {
  const plain = spaced(words)
  return plain.trim() === '' ? text : spaced(text).replaceAll(plain, ' ')
}

function spaced(text: string): string {
  const plain = text
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
  return ` ${plain} `
}
