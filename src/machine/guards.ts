import type { Check, Expanded } from '../interactables/index.ts'
import type { Registers } from './registers.ts'

/** A compiled condition: whether it holds for the character that acts. */
export type Guard = (regs: Int32Array, actor: number) => boolean

type Level = Pick<Expanded, 'items' | 'characters' | 'contents'>

/** Compiles a condition to a function over registers. */
export function compileGuard(check: Check, at: Registers, level: Level): Guard {
  switch (check.kind) {
    case 'never':
      return () => false
    case 'carries': {
      const { item, count } = check
      return (regs, actor) => regs[at.item(actor, item)]! >= count
    }
    case 'state':
      return stateGuard(at.state(check.interactable), check.states)
    case 'flag': {
      const index = at.flag(check.flag)
      const value = check.is ? 1 : 0
      return (regs) => regs[index] === value
    }
    case 'room': {
      const { item, count } = check
      return (regs, actor) => roomFor(regs, actor, item, at, level) >= count
    }
    case 'role': {
      const fits = level.characters.map(({ role }) => check.roles.includes(role))
      return (_regs, actor) => fits[actor]!
    }
    case 'remembers':
      return (regs, actor) => regs[at.memory(actor, check.memory)] === 1
    case 'contains': {
      const index = at.content(check.content)
      const { count } = check
      return (regs) => regs[index]! >= count
    }
    case 'fits': {
      const { contents } = check
      const itemOf = contents.map((content) => level.contents[content]!.item)
      const slots = contents.map((content) => at.content(content))
      return (regs, actor) =>
        slots.some((slot, i) => regs[slot]! > 0 && roomFor(regs, actor, itemOf[i]!, at, level) > 0)
    }
    case 'empty': {
      const indices = check.contents.map((content) => at.content(content))
      return (regs) => indices.every((index) => regs[index] === 0)
    }
    case 'counter': {
      const index = at.counter(check.counter)
      const { least, most } = check
      return (regs) => regs[index]! >= least && regs[index]! <= most
    }
    case 'inside':
      return insideGuard(check, at)
    case 'dial': {
      const first = at.wheel(check.wheel)
      const { digits } = check
      return (regs) => digits.every((digit, i) => regs[first + i] === digit)
    }
    case 'not': {
      const inner = compileGuard(check.check, at, level)
      return (regs, actor) => !inner(regs, actor)
    }
    case 'all':
    case 'any':
      return joinedGuard(
        check.checks.map((inner) => compileGuard(inner, at, level)),
        check.kind === 'all',
      )
  }
}

/** How many more of an item a character could carry. */
export function roomFor(regs: Int32Array, actor: number, item: number, at: Registers, level: Level): number {
  const { most, shared } = level.items[item]!
  const room = most - regs[at.item(actor, item)]!
  const { carriesMost } = level.characters[actor]!
  if (shared || carriesMost === Infinity) return room
  let carried = 0
  for (let other = 0; other < at.items; other++)
    if (!level.items[other]!.shared) carried += regs[at.item(actor, other)]!
  return Math.max(0, Math.min(room, carriesMost - carried))
}

/** Somebody is in a zone, of those that are meant; with an item that is not -1, somebody who carries it. */
function insideGuard({ zone, item, who }: Extract<Check, { kind: 'inside' }>, at: Registers): Guard {
  return (regs) => {
    for (let character = 0; character < at.characters; character++) {
      if (who !== null && !who.includes(character)) continue
      if (regs[at.inside(character, zone)] !== 1) continue
      if (item < 0 || regs[at.item(character, item)]! > 0) return true
    }
    return false
  }
}

function stateGuard(index: number, states: readonly number[]): Guard {
  const [only] = states
  if (states.length === 1) return (regs) => regs[index] === only
  return (regs) => states.includes(regs[index]!)
}

function joinedGuard(inner: readonly Guard[], all: boolean): Guard {
  const [first] = inner
  if (!first) return () => all
  if (inner.length === 1) return first
  return (regs, actor) => {
    for (const guard of inner) if (guard(regs, actor) !== all) return !all
    return all
  }
}

/** The parts of a condition that keep it from holding; empty where it holds. */
export function unmetParts(
  check: Check,
  { at, expanded }: { readonly at: Registers; readonly expanded: Level },
  regs: Int32Array,
  actor: number,
): Check[] {
  if (compileGuard(check, at, expanded)(regs, actor)) return []
  if (check.kind === 'all' || check.kind === 'any')
    return check.checks.flatMap((part) => unmetParts(part, { at, expanded }, regs, actor))
  return [check]
}
