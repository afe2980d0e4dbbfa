import type { Observation } from '../../explore/index.ts'
import type { Check } from '../../interactables/index.ts'
import type { Moment } from '../../model/index.ts'
import { reasonsFor, refusalFeedback, type Stage } from '../../play/index.ts'

const start = 'no-room '

/** The key for an item that is given to somebody who has no room for all of it. */
export function noRoomKey(interactable: string, item: string): string {
  return `${start}${interactable}/${item}`
}

/** Looks out for gives for which there is no room: what does not fit is gone. A fault where nothing says so. */
export function noRoomLookout(stage: Stage): Observation {
  const { expanded, tables } = stage
  const givers = tables.rows.filter(({ transition }) => transition.changes.some(({ kind }) => kind === 'give'))
  const keys = expanded.interactables.map(({ name }) => expanded.items.map((item) => noRoomKey(name, item.name)))
  const read = (key: string): { machine: number; item: string } => {
    const [name = '', item = ''] = key.slice(start.length).split('/')
    return { machine: expanded.interactables.findIndex((one) => one.name === name), item }
  }
  return {
    isFault: (key) => (expanded.interactables[read(key).machine]!.feedback['too-full'] ?? []).length === 0,
    watches: (regs) =>
      givers.some((row) => row.transition.from.includes(regs[row.machine]!) && isFull(stage, regs, row)),
    watcher: (see) => ({
      item: ({ item, after, wanted }, row) => {
        const gives = row?.transition.changes.some(({ kind }) => kind === 'give') ?? false
        if (row && gives && wanted > after) see(keys[row.machine]![item]!)
      },
    }),
    isShown: (key, play) => {
      const { machine, item } = read(key)
      return play.moments.has(`${String(machine)} lost ${item}`)
    },
  }
}

const momentStart = 'moment '

/** The key for a moment that something else than a refused press brings about. */
export function momentKey(interactable: string, moment: Moment): string {
  return `${momentStart}${interactable}/${moment}`
}

/**
 * Looks out for what is told of items for which there is no room, of zones that one comes into without room for what lies
 * there, and of presses that are kept down without being allowed to.
 */
export function momentObservation(stage: Stage): Observation {
  const { expanded, tables } = stage
  const rows = tables.rows.filter(({ transition: { when, guard, changes } }) => {
    if (when.kind === 'hold' || when.kind === 'enter' || when.kind === 'leave') return asksAnything(guard)
    return changes.some(({ kind }) => kind === 'give' || kind === 'take-out')
  })
  const isKnown = (key: string, moments: ReadonlySet<string>): boolean => {
    const [name = '', moment = ''] = key.slice(momentStart.length).split('/')
    return moments.has(`${String(expanded.interactables.findIndex((one) => one.name === name))} ${moment}`)
  }
  return {
    isFault: () => false,
    isKnown,
    isShown: (key, play) => isKnown(key, play.moments),
    watches: (regs) =>
      rows.some((row) => {
        if (!row.transition.from.includes(regs[row.machine]!)) return false
        return isFull(stage, regs, row) || expanded.characters.some((_, actor) => !row.guard(regs, actor))
      }),
    watcher: (see) => ({
      item: ({ after, wanted }, row) => {
        if (row && wanted > after) see(momentKey(expanded.interactables[row.machine]!.name, 'too-full'))
      },
      notTaken: ({ machine, transition }, _actor, unmet) => {
        const placed = expanded.interactables[machine]!
        const { kind } = transition.when
        if (!['hold', 'enter', 'leave'].includes(kind)) return
        const isHeld = kind === 'hold'
        if (!isHeld && !unmet.some(({ kind }) => kind === 'room')) return
        const { moment } = refusalFeedback(placed, transition, reasonsFor(transition, unmet))
        see(momentKey(placed.name, isHeld ? moment : 'too-full'))
      },
    }),
  }
}

function asksAnything(guard: Check): boolean {
  return guard.kind !== 'all' || guard.checks.length > 0
}

/** Whether somebody carries as much already as that something that is given may not fit. */
function isFull(
  { tables, expanded }: Stage,
  regs: Int32Array,
  { transition }: Stage['tables']['rows'][number],
): boolean {
  return transition.changes.some((change) => {
    if (change.kind !== 'give' && change.kind !== 'take-out') return false
    const item = 'item' in change ? change.item : expanded.contents[change.content]!.item
    return expanded.characters.some(({ carriesMost }, actor) => {
      if (regs[tables.at.item(actor, item)]! + change.count > expanded.items[item]!.most) return true
      if (carriesMost === Infinity) return false
      let carried = sumGiven(transition)
      for (let other = 0; other < tables.at.items; other++) carried += regs[tables.at.item(actor, other)]!
      return carried > carriesMost
    })
  })
}

function sumGiven({ changes }: Stage['tables']['rows'][number]['transition']): number {
  return changes.reduce(
    (sum, change) => sum + (change.kind === 'give' || change.kind === 'take-out' ? change.count : 0),
    0,
  )
}
