import type { Observation } from '../../explore/index.ts'
import type { Check, When } from '../../interactables/index.ts'
import type { CompiledTransition } from '../../machine/index.ts'
import { reasonsFor, refusalFeedback, type Stage } from '../../play/index.ts'
import { fillIn, likely } from '../shared/edits.ts'
import { rowSubject, rowTitle } from '../shared/rows.ts'
import { type Rule, witnessed } from '../rule.ts'

const start = 'held-back '

/** What is known of a finding of this rule. */
export interface SilentGuardFacts {
  readonly interactable: string
  readonly transition: string
  readonly trigger: Kind
}

/** What somebody does, other than pressing, that a guard can keep from having its effect. */
type Kind = Extract<When['kind'], 'enter' | 'leave' | 'hold' | 'release' | 'signal'>

/** Walking into an area, holding, letting go, or a signal that comes to nothing, and nothing says why. */
export const silentGuard: Rule<SilentGuardFacts> = {
  name: 'silent-guard',
  severity: 'advice',
  observation(stage) {
    const rows = guardedRows(stage)
    const keys = new Map(rows.map((row) => [row.index, start + rowSubject(stage, row)]))
    const isSeen = (key: string, moments: ReadonlySet<string>): boolean => {
      const row = rows.find(({ index }) => keys.get(index) === key)
      return row !== undefined && moments.has(heldBackMoment(row))
    }
    return {
      isFault: () => true,
      isShown: (key, play) => isSeen(key, play.moments),
      watches: (regs) =>
        rows.some(
          (row) =>
            row.transition.from.includes(regs[row.machine]!) &&
            stage.expanded.characters.some((_, actor) => !row.guard(regs, actor)),
        ),
      watcher: (see) => ({
        notTaken: (row, actor, unmet) => {
          const key = keys.get(row.index)
          if (key !== undefined && isToldOf(stage, row, actor, unmet)) see(key)
        },
      }),
    } satisfies Observation
  },
  ask(context) {
    const { stage } = context
    return guardedRows(stage).map((row) => {
      const subject = rowSubject(stage, row)
      return witnessed(context, subject, [start + subject], () => ({
        path: row.transition.path,
        facts: {
          interactable: stage.expanded.interactables[row.machine]!.name,
          transition: rowTitle(stage, row),
          trigger: row.transition.when.kind as Kind,
        },
        grant: null,
      }))
    })
  },
  says({ interactable, transition, trigger }) {
    return `${doings[trigger]} ${interactable}, and its guard keeps ${transition} back: nothing says why.`
  },
  fix() {
    return 'Say why under refused: in the transition.'
  },
  edit({ path }) {
    return likely({ do: 'add', path, key: 'refused', value: [{ message: `${fillIn} why nothing happens)` }] })
  },
}

const doings: Readonly<Record<Kind, string>> = {
  enter: 'A player walks up to',
  leave: 'A player walks away from',
  hold: 'A player keeps a press down on',
  release: 'A player lets go of',
  signal: 'A signal comes to',
}

/** What a play is known by that has come to a transition which a guard kept back. */
function heldBackMoment({ machine, place }: CompiledTransition): string {
  return `${String(machine)} held-back ${String(place)}`
}

/** Guarded transitions of the level's own types that say nothing of their own, and that no press sets off. */
function guardedRows({ tables, expanded }: Stage): CompiledTransition[] {
  return tables.rows.filter(({ machine, transition }) => {
    const { when, guard, refused, path } = transition
    const isAsking = guard.kind !== 'never' && (guard.kind !== 'all' || guard.checks.length > 0)
    const isTold = when.kind === 'hold' && (expanded.interactables[machine]!.feedback.refused ?? []).length > 0
    return path.startsWith('types.') && when.kind in doings && isAsking && refused === null && !isTold
  })
}

/**
 * Whether a player would want to be told: not where others walk by, nor where what lies in an area is not wanted; walking, and signals, ask for nothing
 * but what must be carried.
 */
function isToldOf(
  stage: Stage,
  { machine, transition }: CompiledTransition,
  actor: number,
  unmet: readonly Check[],
): boolean {
  const { kind } = transition.when
  if (actor >= 0 && stage.expanded.characters[actor]!.role !== 'player') return false
  // That signals wait for each other is a way to ask for several things at once.
  if (['enter', 'leave', 'signal'].includes(kind)) return unmet.some((check) => check.kind === 'carries')
  const { entries } = refusalFeedback(stage.expanded.interactables[machine]!, transition, reasonsFor(transition, unmet))
  return kind !== 'hold' || entries.length === 0
}
