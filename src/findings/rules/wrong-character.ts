import type { Role } from '../../model/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { found, type Rule, ruledOut, undecided } from '../rule.ts'
import { likely } from '../shared/edits.ts'
import { carriedIn } from '../shared/obstruction.ts'
import { rowSubject } from '../shared/rows.ts'

/** What is known of a finding of this rule. */
export interface WrongCharacterFacts {
  readonly interactable: string
  readonly character: string
  readonly role: Role
  /** What it takes, in the words for players. */
  readonly item: string
  /** What asks players for it: interactables, or goals. */
  readonly askedBy: string
}

/** A creature or a companion can take what players need, and can do nothing with it: for the players it is gone. */
export const wrongCharacter: Rule<WrongCharacterFacts> = {
  name: 'wrong-character',
  severity: 'warning',
  ask({ stage, evidence }) {
    const { expanded, tables } = stage
    return tables.rows.flatMap((row) => {
      const { machine, transition } = row
      const takers = expanded.characters.filter(({ role }) => role !== 'player' && transition.roles.includes(role))
      const item = takenFor(stage, row)
      if (takers.length === 0 || item === null) return []
      const subject = rowSubject(stage, row)
      const askedBy = whatAsks(stage, 'player', item)
      const taker = takers.find(({ role, name }) => whatAsks(stage, role, item) === null && comesNear(stage, name, row))
      const answer = evidence.dead[row.index]!
      if (askedBy === null || !taker || answer.answer === 'found') return [ruledOut(subject)]
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      const { name, path } = expanded.interactables[machine]!
      const isOwn = expanded.level.interactables?.[name]?.who !== undefined
      const facts = {
        interactable: name,
        character: taker.name,
        role: taker.role,
        item: expanded.items[item]!.title,
        askedBy,
      }
      return [
        found(subject, {
          path: isOwn ? `${path}.who` : transition.path,
          facts,
          steps: [],
          grant: { grant: 'harmless', row: row.index },
        }),
      ]
    })
  },
  says({ interactable, character, role, item, askedBy }) {
    return `${character}, a ${role}, can take the ${item} from ${interactable}, and can do nothing with it. Players need it for ${askedBy}.`
  },
  fix({ role }) {
    return `Take ${role} out of who, let it use the item somewhere, or let each take one (for: each).`
  },
  edit({ stage, path, facts: { interactable, role } }) {
    const who = stage.expanded.level.interactables?.[interactable]?.who
    if (!Array.isArray(who)) return null
    const others = who.filter((one) => one !== role)
    return likely({ do: 'replace', path, value: others.length === 1 ? others[0]! : others })
  },
}

/** The item that a transition takes away for good, for the one who acts; null where it takes none, or there is another one then. */
function takenFor({ expanded }: Stage, { to, transition }: CompiledTransition): number | null {
  if (to < 0 || transition.isRefusal || transition.from.includes(to)) return null
  for (const change of transition.changes) {
    const item =
      change.kind === 'give' ? change.item : change.kind === 'take-out' ? expanded.contents[change.content]!.item : -1
    if (item >= 0 && !expanded.items[item]!.shared) return item
  }
  return null
}

/** What asks a role for an item: an interactable, or for players a goal; null: nothing. */
function whatAsks({ tables, expanded }: Stage, role: Role, item: number): string | null {
  const row = tables.rows.find(
    ({ transition }) => transition.roles.includes(role) && carriedIn(transition.guard).includes(item),
  )
  if (row) return expanded.interactables[row.machine]!.name
  const goal = role === 'player' ? expanded.goals.find(({ check }) => carriedIn(check).includes(item)) : undefined
  return goal ? `the goal ${goal.name}` : null
}

/** Whether a character can come to where it sets a transition off. */
function comesNear(
  { expanded, space }: Stage,
  name: string,
  { machine, transition: { when } }: CompiledTransition,
): boolean {
  const who = expanded.characters.findIndex((one) => one.name === name)
  const { patches, beside, patchAt } = space.patches[who]!
  const first = patchAt(space.layout.starts[who]!)
  const seen = new Set(first < 0 ? [] : [first])
  for (const patch of seen) {
    const { zones, candidates } = patches[patch]!.signature
    if (when.kind === 'enter' ? zones.includes(when.zone) : candidates.some((one) => one.interactable === machine))
      return true
    for (const next of beside[patch]!) seen.add(next)
  }
  return false
}
