import { milliseconds, type StateDefinition } from '../model/index.ts'
import type { Draft } from './draft.ts'
import type { PlacedMotion, PlacedState } from './placed.ts'
import { scaledPoint } from './scale.ts'
import { filledIn, isProvided } from './template.ts'

/** A state of a type as an instance has it. */
export function placedState(one: Draft, name: string): PlacedState {
  const definition: StateDefinition = one.type.states?.[name] ?? {}
  const motion = filledIn(definition.motion, one.values, [])
  const ignores = definition.ignores?.press
  return {
    name,
    blocksWalk: definition.blocks?.includes('walk') ?? false,
    blocksSight: definition.blocks?.includes('sight') ?? false,
    blocksCamera: definition.blocks?.includes('camera') ?? false,
    look: definition.look ?? null,
    lasting: definition.lasting ?? false,
    pose: definition.pose ?? null,
    motion: motion ? placedMotion(motion, one.instance.scale ?? 1) : null,
    dials: definition.dials ?? false,
    isSpare: isSpare(one, name),
    ignoresPress: ignores === true || (ignores !== undefined && isProvided(ignores, one.values, [])),
    path: one.chain.states[name] ?? one.path,
  }
}

function isSpare({ type, values }: Draft, name: string): boolean {
  const leading = (type.transitions ?? []).filter(({ to }) => to === name)
  return leading.length > 0 && leading.every((row) => row.if !== undefined && !isProvided(row.if, values, []))
}

/** How long a motion lasts where nothing says so, in seconds. */
const usualTime = 0.8

function placedMotion(motion: NonNullable<StateDefinition['motion']>, scale: number): PlacedMotion {
  const slide = scaledPoint(Array.isArray(motion.offset) ? motion.offset : [0, 0, 0], scale)
  const said = motion.kind ?? (motion.offset !== undefined ? 'slide' : motion.degrees !== undefined ? 'turn' : 'vanish')
  const kind = typeof said === 'string' ? said : 'vanish'
  const turn = turned(typeof motion.degrees === 'number' ? motion.degrees : 0, motion.direction)
  const [x, y, z] = slide
  const way = kind === 'turn' ? Math.abs(turn) : Math.sqrt(x * x + y * y + z * z)
  const speed = typeof motion.speed === 'number' && kind !== 'vanish' && way > 0 ? motion.speed : 0
  const over = speed > 0 ? way / speed : Number(motion.over ?? usualTime)
  return {
    to: motion.to ?? 1,
    over: Math.max(1, milliseconds(over)),
    kind,
    turn,
    slide,
    isSoft: motion.ease === 'soft',
  }
}

/** Degrees, by the way that is asked for: the shorter one, at most half round; to the left, or to the right. */
function turned(degrees: number, way: unknown): number {
  if (way === undefined || way === 'as-said') return degrees
  const round = ((degrees % 360) + 360) % 360
  if (way === 'left') return round
  if (way === 'right') return round === 0 ? 0 : round - 360
  return round > 180 ? round - 360 : round
}
