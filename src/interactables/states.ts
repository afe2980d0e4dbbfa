import { milliseconds, type StateDefinition } from '../model/index.ts'
import type { Draft } from './draft.ts'
import type { PlacedMotion, PlacedState } from './placed.ts'
import { filledIn, isProvided } from './template.ts'

/** A state of a type as a copy has it. */
export function placedState(one: Draft, name: string): PlacedState {
  const definition: StateDefinition = one.type.states?.[name] ?? {}
  const motion = filledIn(definition.motion, one.values, [])
  const ignores = definition.ignores?.press
  return {
    name,
    blocksWalk: definition.blocks?.includes('walk') ?? false,
    blocksSight: definition.blocks?.includes('sight') ?? false,
    look: definition.look ?? null,
    lasting: definition.lasting ?? false,
    pose: definition.pose ?? null,
    motion: motion ? placedMotion(motion) : null,
    dials: definition.dials ?? false,
    ignoresPress: ignores === true || (ignores !== undefined && isProvided(ignores, one.values, [])),
    path: one.chain.states[name] ?? one.path,
  }
}

function placedMotion(motion: NonNullable<StateDefinition['motion']>): PlacedMotion {
  const turn = typeof motion.turn === 'number' ? motion.turn : 0
  const slide = Array.isArray(motion.slide) ? motion.slide : ([0, 0, 0] as const)
  const kind = motion.kind ?? (motion.slide !== undefined ? 'slide' : motion.turn !== undefined ? 'turn' : 'vanish')
  return {
    to: motion.to ?? 1,
    over: milliseconds(Number(motion.over)),
    kind: typeof kind === 'string' ? kind : 'vanish',
    turn,
    slide,
    isSoft: motion.ease === 'soft',
  }
}
