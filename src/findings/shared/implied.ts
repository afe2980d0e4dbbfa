import type { Check } from '../../interactables/index.ts'

/**
 * Whether one condition holds wherever another does, as far as that can be seen from what they ask for: true only where
 * it is certain.
 */
export function implies(check: Check, other: Check): boolean {
  if (other.kind === 'all') return other.checks.every((part) => implies(check, part))
  if (check.kind === 'any') return check.checks.every((part) => implies(part, other))
  if (other.kind === 'any') return other.checks.some((part) => implies(check, part)) || isPartOf(check, other)
  return isPartOf(check, other)
}

function isPartOf(check: Check, other: Check): boolean {
  if (check.kind === 'all') return check.checks.some((part) => implies(part, other))
  if (check.kind === 'never') return true
  if (check.kind === 'not' && other.kind === 'not') return implies(other.check, check.check)
  if (check.kind === 'carries' && other.kind === 'carries')
    return check.item === other.item && check.count >= other.count
  if (check.kind === 'room' && other.kind === 'room') return check.item === other.item && check.count >= other.count
  if (check.kind === 'contains' && other.kind === 'contains') {
    return check.content === other.content && check.count >= other.count
  }
  if (check.kind === 'counter' && other.kind === 'counter') {
    return check.counter === other.counter && check.least >= other.least && check.most <= other.most
  }
  if (check.kind === 'state' && other.kind === 'state') {
    return check.interactable === other.interactable && check.states.every((state) => other.states.includes(state))
  }
  return JSON.stringify(check) === JSON.stringify(other)
}

/** A condition without the places where its names are written. */
export function withoutPlaces(check: Check): unknown {
  if (check.kind === 'not') return { not: withoutPlaces(check.check) }
  if (check.kind === 'all' || check.kind === 'any') return { [check.kind]: check.checks.map(withoutPlaces) }
  return check.kind === 'carries' ? { ...check, path: '' } : check
}
