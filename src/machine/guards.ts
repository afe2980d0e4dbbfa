import type { Check } from '../interactables/index.ts'
import type { Registers } from './registers.ts'

/** A compiled condition: whether it holds for whoever acts. */
export type Guard = (regs: Int32Array, actor: number) => boolean

/** Compiles a condition to a function over registers. */
export function compileGuard(check: Check, at: Registers): Guard {
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
    case 'not': {
      const inner = compileGuard(check.check, at)
      return (regs, actor) => !inner(regs, actor)
    }
    case 'all':
    case 'any':
      return joinedGuard(
        check.checks.map((inner) => compileGuard(inner, at)),
        check.kind === 'all',
      )
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
export function unmetParts(check: Check, at: Registers, regs: Int32Array, actor: number): Check[] {
  if (compileGuard(check, at)(regs, actor)) return []
  if (check.kind === 'all' || check.kind === 'any')
    return check.checks.flatMap((part) => unmetParts(part, at, regs, actor))
  return [check]
}
