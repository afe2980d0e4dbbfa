import type { Check } from '../../interactables/index.ts'

/** Whether some part of a condition is so: what it is made of, whether asked for or asked not to be. */
export function somePart(check: Check, isSo: (part: Check) => boolean): boolean {
  if (check.kind === 'not') return somePart(check.check, isSo)
  if (check.kind === 'all' || check.kind === 'any') return check.checks.some((part) => somePart(part, isSo))
  return isSo(check)
}
