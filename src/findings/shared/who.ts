import type { Stage } from '../../play/index.ts'

/** The characters that may set something of an interactable off by a press; all, where none may. */
export function whoMayAsk({ expanded }: Pick<Stage, 'expanded'>, machine: number): number[] {
  const { transitions } = expanded.interactables[machine]!
  const roles = new Set(transitions.flatMap((row) => row.roles))
  const may = expanded.characters.flatMap(({ role }, who) => (roles.has(role) ? [who] : []))
  return may.length > 0 ? may : expanded.characters.map((_, who) => who)
}
