import type { CompiledTransition } from '../../machine/index.ts'
import type { Stage } from '../../play/index.ts'
import { fillIn, likely, toldAt } from '../shared/edits.ts'
import { rowTitle } from '../shared/rows.ts'
import { toldBySuccess } from '../shared/told.ts'
import { type Asked, type Context, found, type Rule, ruledOut, undecided } from '../rule.ts'

/** What is known of a finding of this rule. */
export interface UntoldChangeFacts {
  readonly interactable: string
  /** The transition, of a type of the level; null for an instance of a built-in type. */
  readonly transition: string | null
  /** How many others are told, and how many there are. */
  readonly told: number
  readonly others: number
  /** A fall, or a checkpoint that is passed: of these something must always be told. */
  readonly always: 'fall' | 'checkpoint' | null
}

/** The built-in types that are worked by hand or by foot. */
const worked = ['lever', 'button', 'pressure-plate']

/** At least so many others are told, where not all are. */
const fewestTold = 2

/** A change of state of which nothing is told, in a level where nearly all others make themselves heard or seen. */
export const untoldChange: Rule<UntoldChangeFacts> = {
  name: 'untold-change',
  severity: 'advice',
  ask(context) {
    const all = changesOf(context)
    return all.map((one): Asked<UntoldChangeFacts> => {
      const alike = all.filter(({ kind }) => kind === one.kind)
      const telling = alike.filter(({ isTold }) => isTold).length
      const others = alike.length - 1
      const isOdd =
        one.always !== null ||
        (telling > 0 && (telling === others || (telling >= fewestTold && 4 * telling >= 3 * others)))
      if (one.isTold || !isOdd) return ruledOut(one.subject)
      if (one.why !== null) return undecided(one.subject, one.why)
      const { interactable, transition, path } = one
      return found(one.subject, {
        path,
        facts: { interactable, transition, told: telling, others, always: one.always },
        steps: [],
        grant: null,
      })
    })
  },
  says({ interactable, transition, told, others, always }) {
    if (always === 'checkpoint') {
      return `Nothing is told when a player passes the checkpoint ${interactable}: no sound, no message, so that nobody knows that it counts.`
    }
    if (always === 'fall') {
      return `Nothing is told when a player falls at ${interactable}: no sound, no message, and the player is somewhere else all at once.`
    }
    const what =
      transition === null
        ? `Nothing is told when ${interactable} is worked`
        : `${interactable} tells nothing when it takes ${transition}`
    const rest =
      others === 1
        ? 'The other change of its kind in this level is told'
        : `Of the ${String(others)} other changes of its kind in this level ${told === others ? 'all' : String(told)} are told`
    return `${what}: no sound, no message. ${rest}.`
  },
  fix({ transition }) {
    return transition === null ? 'Say under accepted: what is heard or seen.' : 'Add feedback to the transition.'
  },
  edit({ stage, path, facts }) {
    const message = `${fillIn} what happens)`
    return facts.transition === null
      ? likely(toldAt(stage, facts.interactable, 'accepted', message))
      : likely({ do: 'add', path, key: 'feedback', value: [{ message }] })
  },
}

/** Something that changes, and whether anything is told of it. */
interface ChangeOf {
  /** Changes of one kind are compared: what a type of the level does and what is worked; or what is picked up. */
  readonly kind: string
  readonly subject: string
  readonly interactable: string
  readonly transition: string | null
  readonly path: string
  readonly always: UntoldChangeFacts['always']
  readonly isTold: boolean
  /** Why it is not known whether it happens; null: it does. */
  readonly why: string | null
}

/** Transitions that change a state, once for a line of a type, and once for an instance of a built-in type; those that never happen left out. */
function changesOf({ stage, evidence }: Context): ChangeOf[] {
  const { expanded, tables } = stage
  const seen = new Map<string, ChangeOf>()
  for (const row of tables.rows) {
    const { name, type, path: own } = expanded.interactables[row.machine]!
    const isOwn = row.transition.path.startsWith('types.')
    const isForTesting = expanded.level.interactables?.[name]?.['test-only'] === true
    const always = alwaysTold(stage, row)
    if (isForTesting || !(always || isChange(stage, row))) continue
    const kind = always ?? (isOwn || worked.includes(type) ? 'worked' : type === 'pickup' ? type : null)
    if (kind === null) continue
    const answer = evidence.dead[row.index]!
    if (answer.answer === 'found') continue
    const path = isOwn ? row.transition.path : own
    const isTold = toldBySuccess(stage, row).length > 0
    const before = seen.get(path)
    // Of an instance, and of a line, it is enough that one is told.
    if (before?.isTold || (before && !isTold)) continue
    const subject = isOwn ? `${name}/${rowTitle(stage, row)}` : name
    const transition = isOwn ? rowTitle(stage, row) : null
    const why = answer.answer === 'undecided' ? answer.why : null
    seen.set(path, { kind, always, subject, interactable: name, transition, path, isTold, why })
  }
  return [...seen.values()]
}

/** Whether a transition changes the state of something that stands somewhere, other than by a clock. */
function isChange({ expanded }: Stage, { machine, to, transition }: CompiledTransition): boolean {
  const { at, doorway } = expanded.interactables[machine]!
  const isPlaced = at !== null || doorway !== null
  return (
    isPlaced &&
    to >= 0 &&
    !['motion-end', 'after'].includes(transition.when.kind) &&
    transition.from.some((from) => from !== to)
  )
}

/** Whether a transition lets somebody fall, or is a checkpoint. */
function alwaysTold({ expanded }: Stage, { transition: { changes } }: CompiledTransition): UntoldChangeFacts['always'] {
  if (changes.some((change) => change.kind === 'move-to' && change.checkpoints !== undefined)) return 'fall'
  const isPassed = changes.some(
    (change) => change.kind === 'remember' && expanded.memories[change.memory]!.checkpoint !== undefined,
  )
  return isPassed ? 'checkpoint' : null
}
