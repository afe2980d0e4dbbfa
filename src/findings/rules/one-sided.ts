import type { Placed } from '../../interactables/index.ts'
import type { Stage } from '../../play/index.ts'
import { roomKey } from '../requirements/confined.ts'
import { finish } from '../../model/index.ts'
import { type Asked, type Context, found, type Rule, ruledOut } from '../rule.ts'
import { cellsIn } from '../shared/ground.ts'
import { isWayOutLost } from '../shared/ways-out.ts'
import { whoMayAsk } from '../shared/who.ts'

/** What is known of a finding of this rule. */
export interface OneSidedFacts {
  readonly interactable: string
  readonly doorway: string
  /** The room from which it can be pressed, and the one from which it cannot. */
  readonly from: string
  readonly notFrom: string
}

/** Something that shuts a doorway, is opened by a press alone, shuts again, and can be pressed from one side only. */
export const oneSided: Rule<OneSidedFacts> = {
  name: 'one-sided',
  severity: 'warning',
  isByLevel: true,
  ask: (context) => finish(oneSided.askInSlices!(context)),
  *askInSlices(context) {
    const asked: Asked<OneSidedFacts>[] = []
    for (const placed of context.stage.expanded.interactables) {
      asked.push(...askOf(context, placed))
      yield
    }
    return asked
  },
  says({ interactable, from, notFrom }) {
    return `${interactable} can be pressed from ${from}, but from nowhere in ${notFrom}: a player who is there when it shuts cannot open it.`
  },
  fix({ notFrom }) {
    return `Put its handle into the middle of the doorway, widen its range, or say with stands-in that it is not meant to be opened from ${notFrom}.`
  },
}

function askOf(context: Context, placed: Placed): Asked<OneSidedFacts>[] {
  const { stage } = context
  const { name, path, doorway } = placed
  // Where it says from where it is pressed, one side may well be meant.
  if (doorway === null || placed.standsIn !== null || !opensByPress(placed) || !shutsAgain(placed)) return []
  const rooms = stage.space.layout.doorways.find((one) => one.name === doorway)?.rooms ?? []
  const sides = rooms.map((room) => ({ room, cells: cellsOf(stage, placed, room) }))
  const [from, ...others] = sides.filter(({ cells }) => cells > 0)
  const notFrom = sides.find(({ cells }) => cells === 0)
  if (!from || others.length > 0 || !notFrom) return [ruledOut(name)]
  // That somebody can be trapped there is worse, and says so.
  if (isTrapping(context, notFrom.room)) return [ruledOut(name)]
  const facts = { interactable: name, doorway, from: from.room, notFrom: notFrom.room }
  return [found(name, { path, isAboutKey: true, facts, steps: [], grant: null })]
}

function opensByPress({ transitions, states }: Placed): boolean {
  const opening = transitions.filter(
    ({ from, to }) => to !== null && from.some((state) => states[state]!.blocksWalk) && !from.includes(to),
  )
  const leaving = opening.filter(({ when, isRefusal }) => !isRefusal && when.kind !== 'motion-end')
  return leaving.length > 0 && leaving.every(({ when }) => when.kind === 'press')
}

function shutsAgain({ transitions, states }: Placed): boolean {
  return transitions.some(
    ({ from, to }) => to !== null && states[to]!.blocksWalk && from.some((state) => !states[state]!.blocksWalk),
  )
}

/** From how many cells of a room a player can press something. */
function cellsOf(stage: Stage, { index }: Placed, room: string): number {
  const outline = stage.space.layout.rooms.find(({ name }) => name === room)?.outline
  if (!outline) return 0
  return whoMayAsk(stage, index).reduce((sum, who) => {
    const { patches, grid, patchesIn } = stage.space.patches[who]!
    const isPressedFrom = (patch: number): boolean =>
      patches[patch]!.signature.candidates.some(({ interactable }) => interactable === index)
    return sum + cellsIn(grid, outline).filter((cell) => patchesIn(cell).some(isPressedFrom)).length
  }, 0)
}

/** Whether some player can be trapped in a room. */
function isTrapping(context: Context, room: string): boolean {
  return context.stage.expanded.characters.some(({ name: character }) =>
    isWayOutLost(context, roomKey({ room, character })),
  )
}
