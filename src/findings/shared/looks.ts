import type { Placed } from '../../interactables/index.ts'

/** Whether nothing that one sees tells two states of an interactable apart: neither its look, nor its pose, nor a motion. */
export function looksAlike({ states, size, doorway }: Placed, one: number, other: number): boolean {
  const [a, b] = [states[one]!, states[other]!]
  if (a.look !== b.look || a.motion || b.motion) return false
  const hasBody = size !== null || doorway !== null
  return !hasBody || a.pose === null || b.pose === null || a.pose === b.pose
}
