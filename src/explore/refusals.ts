import { unmetParts } from '../machine/index.ts'
import { type Play, refusalFeedback } from '../play/index.ts'
import type { Refusal } from './answers.ts'
import type { Coverage } from './cover.ts'
import type { Backward } from './graph.ts'
import { eachPress, isOffered } from './inputs.ts'
import { FewestSteps, type Route } from './routes.ts'
import { moveKind } from './moves.ts'
import type { Search } from './search.ts'
import { dismissal, grouped, inputStep, perform, type PlayStep, replay, shortened } from './steps.ts'

/** For one interactable: refusals that were played, and how many others seem possible. */
export interface Refused {
  readonly played: readonly Refusal[]
  readonly unplayed: number
}

const tries = 4

/**
 * For each interactable, the transitions that a press can be refused on where nothing would be perceived, each with
 * the fewest steps to it. Refusals that say something are not asked about.
 */
export function* findRefusals(search: Search, backward: Backward, cover: Coverage): Generator<undefined, Refused[]> {
  const { expanded, tables } = search.stage
  const silent = tables.rows.map(({ machine, transition }) => {
    const { missing, 'too-full': tooFull, refused } = expanded.interactables[machine]!.feedback
    const asks = transition.guard.kind !== 'all' || transition.guard.checks.length > 0
    const lists = transition.refused === null ? [missing, tooFull, refused] : [transition.refused]
    const alwaysSays = lists.every((list) => list === undefined || list.some(({ because }) => because === undefined))
    const says = alwaysSays && (transition.refused ?? refused ?? []).length > 0
    return transition.when.kind === 'press' && asks && !says
  })
  const result = expanded.interactables.map(() => ({ played: [] as Refusal[], unplayed: 0 }))
  if (!silent.includes(true)) return result
  const everywhere = yield* refusedAt(search, silent)
  if (everywhere.size === 0) return result
  const fewest = yield* FewestSteps.of(search, backward, null)
  for (const [row, places] of nearest(everywhere, fewest)) {
    const machine = tables.rows[row]!.machine
    const refusal = yield* playRefusal(search, cover, fewest, row, places)
    if (refusal) result[machine]!.played.push(refusal)
    else result[machine]!.unplayed++
  }
  return result
}

/** For each silent row: the situations in which a press on it is refused. */
function* refusedAt(search: Search, silent: readonly boolean[]): Generator<undefined, Map<number, RefusingPlace[]>> {
  const { tables, expanded } = search.stage
  const refused = new Map<number, RefusingPlace[]>()
  const regs = new Int32Array(tables.at.size)
  for (let index = 0; index < search.store.count; index++) {
    if (index % 8192 === 8191) yield
    const patch = search.read(index, regs)
    for (let actor = 0; actor < tables.at.characters; actor++) {
      if (regs[tables.at.held(actor)] !== 0) continue
      eachPress(tables, search.signOf(actor, regs, patch), regs, actor, (machine, ask, looking) => {
        const rows = tables.states[machine]![regs[machine]!]!.presses[ask]!.filter((one) => isOffered(one, regs, actor))
        const row = rows[0]
        if (!row || !silent[row.index] || rows.some(({ guard }) => guard(regs, actor))) return
        const unmet = unmetParts(row.transition.guard, tables, regs, actor)
        if (refusalFeedback(expanded.interactables[machine]!, row.transition, unmet).entries.length > 0) return
        const place = { index, what: search.moves.inputs.press(actor, machine, ask, looking, false), steps: 0 }
        const known = refused.get(row.index)
        if (known) known.push(place)
        else refused.set(row.index, [place])
      })
    }
  }
  return refused
}

/** Where a press is refused, and the fewest steps to have pressed there. */
interface RefusingPlace {
  readonly index: number
  /** The press: see `Inputs`. */
  readonly what: number
  readonly steps: number
}

/** Of the situations for each row, those with the fewest steps to them, in file order of the rows. */
function nearest(
  refused: ReadonlyMap<number, readonly RefusingPlace[]>,
  fewest: FewestSteps,
): [row: number, places: RefusingPlace[]][] {
  const rows = [...refused].sort((a, b) => a[0] - b[0])
  return rows.map(([row, places]) => {
    const ranked = places.map((place) => ({ ...place, steps: fewest.through(place.index, moveKind.press) }))
    ranked.sort((a, b) => a.steps - b.steps || a.index - b.index)
    return [row, ranked]
  })
}

function* playRefusal(
  search: Search,
  cover: Coverage,
  fewest: FewestSteps,
  row: number,
  places: readonly RefusingPlace[],
): Generator<undefined, Refusal | null> {
  const { stage } = search
  const { machine } = stage.tables.rows[row]!
  const { when } = stage.tables.rows[row]!.transition
  const ask = when.kind === 'press' ? when.ask : 0
  const { name } = stage.expanded.interactables[machine]!
  const isDone = (play: Play): boolean =>
    isRefusedBy(play, name) &&
    stage.tables.states[machine]![play.registers()[machine]!]!.presses[ask]![0]?.index === row
  const fewestSteps = places[0]!.steps
  function* refusal(steps: readonly PlayStep[]): Generator<undefined, Refusal> {
    const short = steps.length > fewestSteps
    const kept = short ? yield* shortened(stage, steps, isDone) : steps
    return { row, steps: yield* grouped(stage, kept, isDone), short }
  }
  for (const { index, what } of places.slice(0, tries)) {
    const to = fewest.route(index, null)
    const move = { kind: moveKind.press, what, patch: -1, ms: -1 }
    const route: Route = { nodes: [...to.nodes, index], moves: [...to.moves, move] }
    const rehearsal = yield* cover.play(search, route, true, isDone)
    if (rehearsal) return yield* refusal(rehearsal.steps)
  }
  const silentAt = new Map(places.map(({ index, what }) => [index, what]))
  const presses: PlayStep[] = []
  const rehearsal = yield* cover.seek(
    (regs, patch, _held, _taken, atRest) => {
      const what = atRest ? silentAt.get(search.find(regs, patch)) : undefined
      if (what === undefined) return false
      presses.push(inputStep(stage, search.moves.inputs.read(what)))
      return true
    },
    (play) => {
      const [press] = presses
      if (press) for (const step of [...dismissal(play, press.who), press]) perform(play, step)
      return isDone(play)
    },
  )
  const [press] = presses
  if (!rehearsal || !press) return null
  const played = replay(stage, rehearsal.steps)
  const steps = [...rehearsal.steps, ...dismissal(played, press.who), press]
  return isDone(replay(stage, steps)) ? yield* refusal(steps) : null
}

/** Whether the last thing in a play was a press that this interactable refused. */
function isRefusedBy(play: Play, name: string): boolean {
  const last = play.log.findLast(({ what }) => what !== 'feedback')
  return last?.what === 'press' && last.outcome === 'refused' && last.interactable === name
}
