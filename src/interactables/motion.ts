import type { Setting, StateDefinition } from '../model/index.ts'

/** What the motion of a built-in type may be. */
interface MotionKinds {
  /** How it can move; the first is the usual way. */
  readonly kinds: readonly ('turn' | 'slide' | 'vanish')[]
  /** Seconds from shut to open, where nobody says otherwise. */
  readonly over: number
  /** How far it slides then, in its own frame. */
  readonly offset: readonly [x: number, y: number, z: number]
  /** Whether a press while it moves can turn it back. */
  readonly isReversible: boolean
}

/** The settings of a motion: the same for all built-in types that move, as far as they move so. */
export function motionSettings({ kinds, over, offset, isReversible }: MotionKinds): Setting {
  const fields: Record<string, Setting> = {
    kind: {
      kind: 'choice',
      options: kinds,
      default: kinds[0],
      about: 'Whether it turns about its hinge, slides, or vanishes and comes back.',
    },
    degrees: { kind: 'degrees', default: 90, about: 'How far it turns.' },
    offset: { kind: 'shift', default: offset, about: 'How far it slides, in its own frame.' },
    over: { kind: 'seconds', default: over, about: 'Seconds from shut to open.' },
    speed: { kind: 'speed', about: 'Instead of the seconds: degrees, or metres for a slide, a second.' },
    direction: {
      kind: 'choice',
      options: ['as-said', 'shorter', 'left', 'right'],
      default: 'as-said',
      about: 'Which way it turns: as the degrees say, the shorter way there, to the left, or to the right.',
    },
    ease: {
      kind: 'choice',
      options: ['steady', 'soft'],
      default: 'steady',
      about: 'Always as fast, or slow at first and at last.',
    },
  }
  if (isReversible) {
    fields['press-while-moving'] = {
      kind: 'choice',
      options: ['ignore', 'reverse', 'finish'],
      default: 'ignore',
      about: 'What a press does while it moves: nothing, turn it back, or turn it back once it has finished.',
    }
  }
  return { kind: 'group', default: {}, about: 'How it moves.', fields }
}

/** The motion of a state of such a type: open (1), or shut (0). */
export function moving(to: 0 | 1): NonNullable<StateDefinition['motion']> {
  return {
    to,
    over: { setting: 'motion.over' },
    speed: { setting: 'motion.speed', or: 0 },
    direction: { setting: 'motion.direction' },
    kind: { setting: 'motion.kind' },
    degrees: { setting: 'motion.degrees' },
    offset: { setting: 'motion.offset' },
    ease: { setting: 'motion.ease' },
  }
}
