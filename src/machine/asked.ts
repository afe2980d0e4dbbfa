import type { Check, Expanded } from '../interactables/index.ts'
import type { Registers } from './registers.ts'

/** Adds all registers that a condition may read, the character that acts. */
export function addAsked(check: Check, at: Registers, level: Expanded, into: Set<number>): void {
  const everybody = (registerOf: (character: number) => number): void => {
    for (let character = 0; character < at.characters; character++) into.add(registerOf(character))
  }
  const room = (item: number): void => {
    everybody((character) => at.item(character, item))
    if (level.characters.every(({ carriesMost }) => carriesMost === Infinity)) return
    for (let other = 0; other < at.items; other++) everybody((character) => at.item(character, other))
  }
  switch (check.kind) {
    case 'all':
    case 'any':
      for (const part of check.checks) addAsked(part, at, level, into)
      return
    case 'not':
      addAsked(check.check, at, level, into)
      return
    case 'carries':
      everybody((character) => at.item(character, check.item))
      return
    case 'room':
      room(check.item)
      return
    case 'state':
      into.add(at.state(check.interactable))
      return
    case 'flag':
      into.add(at.flag(check.flag))
      return
    case 'counter':
      into.add(at.counter(check.counter))
      return
    case 'remembers':
      everybody((character) => at.memory(character, check.memory))
      return
    case 'contains':
      into.add(at.content(check.content))
      return
    case 'empty':
      for (const content of check.contents) into.add(at.content(content))
      return
    case 'fits':
      for (const content of check.contents) {
        into.add(at.content(content))
        room(level.contents[content]!.item)
      }
      return
    case 'inside':
      everybody((character) => at.inside(character, check.zone))
      if (check.item >= 0) everybody((character) => at.item(character, check.item))
      return
    case 'dial':
      check.digits.forEach((_, i) => into.add(at.wheel(check.wheel + i)))
      return
    case 'role':
    case 'never':
  }
}
