import type { CompiledTransition, StateTable } from './tables.ts'

/** Whether a transition may be set off by a character, and (for an option) is on the prompt. */
export function isOffered({ may, offered }: CompiledTransition, regs: Int32Array, actor: number): boolean {
  return may[actor]! && (offered === null || offered(regs, actor))
}

/**
 * The ways to press, as indices into `Expanded.pressKinds`, of which chance draws one where a character presses in the usual
 * way: those whose transition can be taken, or, where none can, the first that then refuses. Empty where chance has no part in it.
 */
export function drawnFrom({ presses, byChance }: StateTable, regs: Int32Array, actor: number): readonly number[] {
  const offered = byChance.filter((kind) => presses[kind]!.some((row) => isOffered(row, regs, actor)))
  const open = offered.filter((kind) =>
    presses[kind]!.some((row) => isOffered(row, regs, actor) && row.guard(regs, actor)),
  )
  return open.length > 0 ? open : offered.slice(0, 1)
}

/** The index of one of several, as a seed and a moment of a play have it: the same for the same, and no pattern to the eye. */
export function drawOne(count: number, seed: number, moment: Iterable<number>): number {
  let hash = 0x811c9dc5 ^ seed
  for (const value of moment) hash = Math.imul(hash ^ value, 0x01000193)
  hash = Math.imul(hash ^ (hash >>> 16), 0x85ebca6b)
  hash = Math.imul(hash ^ (hash >>> 13), 0xc2b2ae35)
  return ((hash ^ (hash >>> 16)) >>> 0) % count
}
