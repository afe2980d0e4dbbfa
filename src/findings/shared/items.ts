import { somePart } from './conditions.ts'
import { askedByPlans, type Check, type Expanded } from '../../interactables/index.ts'
import { departures } from '../../play/index.ts'

/** Where an item is asked for: by an interactable, or by a goal. */
export interface AskedFor {
  readonly item: number
  /** Whether it must be carried; else it must not be. */
  readonly isWanted: boolean
  readonly by: string
  readonly path: string
}

/** All places where carrying an item is asked for, in file order: guards, conditions that are waited for, goals. */
export function itemsAskedFor({ interactables, goals, requirements }: Expanded): AskedFor[] {
  return [
    ...interactables.flatMap(({ name, transitions }) =>
      transitions.flatMap(({ guard, when }) => {
        const more =
          when.kind === 'becomes' ? [when.check] : when.kind === 'press' && when.offered ? [when.offered] : []
        return [guard, ...more].flatMap((check) => carriedIn(check, name))
      }),
    ),
    ...goals.flatMap(({ name, check }) => carriedIn(check, name)),
    // What must never be carried need not be had.
    ...askedByPlans({ goals: [], requirements }).flatMap(({ name, check }) => carriedIn(check, name, false)),
  ]
}

function carriedIn(check: Check, by: string, isWanted = true): AskedFor[] {
  switch (check.kind) {
    case 'carries':
      return [{ item: check.item, isWanted, by, path: check.path }]
    case 'inside':
      return check.item < 0 ? [] : [{ item: check.item, isWanted, by, path: '' }]
    case 'not':
      return carriedIn(check.check, by, !isWanted)
    case 'all':
    case 'any':
      return check.checks.flatMap((part) => carriedIn(part, by, isWanted))
    default:
      return []
  }
}

/** The items that interactables give, each with the name of the one that does; by what they hold too. */
export function itemsGiven({ interactables, contents }: Expanded): { readonly item: number; readonly by: string }[] {
  return interactables.flatMap(({ name, transitions }) =>
    transitions.flatMap(({ changes }) =>
      changes.flatMap((change) => {
        if (change.kind === 'give') return [{ item: change.item, by: name }]
        return change.kind === 'take-out' ? [{ item: contents[change.content]!.item, by: name }] : []
      }),
    ),
  )
}

/** The items that interactables take away, or that are said to be dropped on leaving. */
export function itemsTaken({ interactables }: Expanded): number[] {
  return interactables.flatMap(({ transitions }) =>
    transitions.flatMap(({ changes }) =>
      changes.flatMap((change) => {
        if (change.kind === 'exit-to') return change.drops ?? []
        return change.kind === 'remove' || change.kind === 'consume' ? [change.item] : []
      }),
    ),
  )
}

/** Whether a level leads to others, so that items may come from elsewhere, or be of use there. */
export function leadsElsewhere(expanded: Expanded): boolean {
  return departures(expanded).length > 0
}

/**
 * Whether anything in a level uses an item of this name: asks for it, takes it, or asks about what gives it or holds it.
 */
export function isUsed(expanded: Expanded, item: string): boolean {
  const index = expanded.items.findIndex(({ name }) => name === item)
  if (index < 0) return false
  if (itemsAskedFor(expanded).some((one) => one.item === index) || itemsTaken(expanded).includes(index)) return true
  const givers = new Set(itemsGiven(expanded).flatMap((one) => (one.item === index ? [one.by] : [])))
  const isAbout = (check: Check): boolean =>
    somePart(check, (part) => {
      switch (part.kind) {
        case 'state':
          return givers.has(expanded.interactables[part.interactable]!.name)
        case 'contains':
          return expanded.contents[part.content]!.item === index
        default:
          return false
      }
    })
  const { interactables } = expanded
  const rows = interactables.flatMap(({ transitions }) => transitions)
  return (
    askedByPlans(expanded).some(({ check }) => isAbout(check)) ||
    rows.some(({ guard, when }) => isAbout(guard) || (when.kind === 'becomes' && isAbout(when.check)))
  )
}
