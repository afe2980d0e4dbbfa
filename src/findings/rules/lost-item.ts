import { isUsed } from '../shared/items.ts'
import { noRoomKey, noRoomLookout } from '../shared/room.ts'
import { unreadIn, whyUnread } from '../shared/elsewhere.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule, witnessed } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface LostItemFacts {
  readonly interactable: string
  readonly item: string
  /** The level where it is asked for, where leaving drops it; null: there is no room for it where it is given. */
  readonly level: string | null
}

/**
 * An item that is lost: there is no room for it where it is given, and nothing says so; or it is dropped on the way to where
 * it is asked for.
 */
export const lostItem: Rule<LostItemFacts> = {
  name: 'lost-item',
  severity: 'warning',
  observation: noRoomLookout,
  ask: (context) => [...askRoom(context), ...askDropped(context)],
  says(facts) {
    return facts.level === null
      ? `${facts.interactable} can give the ${facts.item} to a player who has no room for it: it is gone for good.`
      : `A player who leaves by ${facts.interactable} loses the ${facts.item}, which the level ${facts.level} asks for.`
  },
  fix(facts) {
    return facts.level === null
      ? 'Ask for room first (room-for), or keep what does not fit (take-out, hands-over: what-fits).'
      : `Do not drop it there, or give another one in ${facts.level}.`
  },
}

function askRoom(context: Context): Asked<LostItemFacts>[] {
  const { expanded, tables } = context.stage
  return expanded.interactables.flatMap(({ name, feedback }, machine) => {
    const rows = tables.rowsOf[machine]!
    const given = rows.flatMap(({ transition }) =>
      transition.changes.flatMap((change) =>
        change.kind === 'give' ? [{ item: change.item, path: transition.path }] : [],
      ),
    )
    return [...new Set(given.map(({ item }) => item))].map((item) => {
      const { name: itemName, title } = expanded.items[item]!
      const isTold = (feedback['too-full'] ?? []).length > 0
      return witnessed(context, `${name}/${itemName}`, isTold ? [] : [noRoomKey(name, itemName)], () => ({
        path: given.find((one) => one.item === item)!.path,
        facts: { interactable: name, item: title, level: null },
        grant: null,
      }))
    })
  })
}

/** Exits that drop what another level of the project asks for. */
function askDropped({ stage: { expanded, tables }, evidence, project }: Context): Asked<LostItemFacts>[] {
  const { joined } = expanded
  if (!project && !joined) return []
  return tables.rows.flatMap((row) =>
    row.transition.changes.flatMap((any): Asked<LostItemFacts>[] => {
      const change = any.kind === 'move-to' ? any.exit : any.kind === 'exit-to' ? any : undefined
      if (!change) return []
      const { name } = expanded.interactables[row.machine]!
      const dropped = change.drops ?? expanded.items.map((_, item) => item)
      const own = project?.level ?? joined!.parts[tables.levelOf[row.machine]!]!.name
      const levels = joined?.parts.map((part) => [part.name, part.expanded] as const) ?? Object.entries(project!.levels)
      const others = levels.filter(([level]) => level !== own)
      const lost = dropped.flatMap((item) => {
        const { name: itemName, title } = expanded.items[item]!
        const asking = others.find(([, level]) => isUsed(level, itemName))
        return asking ? [{ title, level: asking[0] }] : []
      })
      const subject = `${name}/${change.level}`
      const answer = evidence.dead[row.index]!
      const [first] = lost
      const unread = project ? unreadIn(project) : []
      if (!first && dropped.length > 0 && unread.length > 0) return [undecided(subject, whyUnread(unread))]
      if (!first || answer.answer === 'found') return [ruledOut(subject)]
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      const facts = { interactable: name, item: first.title, level: first.level } as const
      return [
        found(subject, { path: `${change.paths.level.replace(/\.level$/, '')}.drops`, facts, steps: [], grant: null }),
      ]
    }),
  )
}
