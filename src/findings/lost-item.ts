import { isUsed } from './items.ts'
import { noRoomKey, noRoomLookout } from './room.ts'
import { ruledOut, type Asked, type Context, found, undecided, type Rule, witnessed } from './rule.ts'

/**
 * An item that is lost: there is no room for it where it is given, and nothing says so; or it is dropped on the way to where
 * it is asked for.
 */
export const lostItem: Rule = {
  name: 'lost-item',
  severity: 'warning',
  observation: noRoomLookout,
  ask: (context) => [...askRoom(context), ...askDropped(context)],
}

function askRoom(context: Context): Asked[] {
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
        facts: { rule: 'lost-item', interactable: name, item: title, level: null },
        grant: null,
      }))
    })
  })
}

/** Exits that drop what another level of the project asks for. */
function askDropped({ stage: { expanded, tables }, evidence, project }: Context): Asked[] {
  if (!project) return []
  return tables.rows.flatMap((row) =>
    row.transition.changes.flatMap((change): Asked[] => {
      if (change.kind !== 'exit-to') return []
      const { name } = expanded.interactables[row.machine]!
      const dropped = change.drops ?? expanded.items.map((_, item) => item)
      const others = Object.entries(project.levels).filter(([level]) => level !== project.level)
      const lost = dropped.flatMap((item) => {
        const { name: itemName, title } = expanded.items[item]!
        const asking = others.find(([, level]) => isUsed(level, itemName))
        return asking ? [{ title, level: asking[0] }] : []
      })
      const subject = `${name}/${change.level}`
      const answer = evidence.dead[row.index]!
      const [first] = lost
      if (!first || answer.answer === 'found') return [ruledOut(subject)]
      if (answer.answer === 'undecided') return [undecided(subject, answer.why)]
      const facts = { rule: 'lost-item', interactable: name, item: first.title, level: first.level } as const
      return [
        found(subject, { path: `${change.paths.level.replace(/\.level$/, '')}.drops`, facts, steps: [], grant: null }),
      ]
    }),
  )
}
