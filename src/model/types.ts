import * as z from 'zod'
import {
  blocks,
  degrees,
  digits,
  inTheWay,
  length,
  name,
  orSetting,
  outline,
  point,
  point3,
  provided,
  rolesOf,
  seconds,
  settingPath,
  text,
} from './parts.ts'
import { feedbackByMoment, told } from './feedback.ts'
import { condition, effect, exactlyOne, items, together, trigger } from './rules.ts'

/** How a state moves the body: towards pose 0 (shut) or 1 (open), the whole way in `over` seconds. */
export const motion = z.strictObject({
  to: z.union([z.literal(0), z.literal(1)]).optional(),
  over: orSetting(seconds)
    .optional()
    .describe('Seconds for the whole way from one pose to the other; 0.8 if left out.'),
  speed: orSetting(z.number().min(0).max(10_000))
    .optional()
    .describe('Instead of over, where it is not 0: degrees a second for a turn, metres a second for a slide.'),
  kind: orSetting(z.enum(['turn', 'slide', 'vanish']))
    .optional()
    .describe('How it moves; turn or slide where that is given, else vanish.'),
  degrees: orSetting(degrees).optional().describe('How far the body turns about its hinge, in degrees.'),
  direction: orSetting(z.enum(['as-said', 'shorter', 'left', 'right']))
    .optional()
    .describe('Which way it turns: as turn says, the shorter way there, to the left, or to the right.'),
  offset: orSetting(point3).optional().describe('How far the body slides, in metres, in its own frame.'),
  ease: orSetting(z.enum(['steady', 'soft']))
    .optional()
    .describe('steady: always as fast; soft: slow at first and at last.'),
})

/** A state of a type. */
export const state = z.strictObject({
  blocks: blocks.optional(),
  look: text.optional().describe('How it looks, in words.'),
  lasting: z.boolean().optional().describe('Staying in this state for ever is meant.'),
  pose: z
    .union([z.literal(0), z.literal(1)])
    .optional()
    .describe('Where the body rests: 0 shut, 1 open.'),
  motion: motion.optional(),
  ignores: z
    .strictObject({ press: z.union([z.literal(true), provided]) })
    .optional()
    .describe('A press is answered by nothing, on purpose.'),
  refuses: z
    .strictObject({ press: z.union([z.literal(true), provided]) })
    .optional()
    .describe('A press is always refused.'),
  dials: z.boolean().optional().describe('The wheels of its dial can be set.'),
  if: provided.optional(),
})

/** The wheels of a dial. */
export const dial = z.strictObject({
  wheels: orSetting(z.int().min(1).max(8)).describe('How many wheels there are.'),
  positions: orSetting(z.int().min(2).max(100)).optional().describe('How many positions a wheel has, from 0 on; 10.'),
  initial: orSetting(digits).optional().describe('Where they stand at first; at 0 where it is left out.'),
})

/** A transition of a type: the first in the table whose trigger matches and whose guard holds is taken. */
export const transition = z.strictObject({
  name: name.optional().describe('Its name; a row of an extending type replaces the row of the same name.'),
  from: z.union([name, z.array(name).min(1)]).describe('The state, or states, that it leaves.'),
  to: name.optional().describe('The state that it leads to; the same one where it is left out.'),
  trigger,
  who: rolesOf.optional().describe('Who may set it off; as the instance says, or else players, if left out.'),
  guard: condition.optional(),
  effects: z.array(effect).optional(),
  feedback: told.optional().describe('Perceived when it is taken.'),
  refused: told
    .optional()
    .describe(
      'Perceived when a press on it is refused, instead of the general; for other triggers, when its guard keeps it back.',
    ),
  restarts: z.boolean().optional().describe('Back to the same state: whether its timers start again; they do.'),
  'for-each': settingPath
    .optional()
    .describe('A row for each entry of this setting, a list of items: its each.item and each.count.'),
  if: provided.optional(),
})

/** What kinds of values a setting can have. */
export const settingKinds = [
  'item',
  'interactable',
  'flag',
  'signal',
  'seconds',
  'metres',
  'degrees',
  'speed',
  'count',
  'choice',
  'yes-no',
  'text',
  'items',
  'digits',
  'shift',
  'counter',
  'tag',
  'condition',
  'place',
  'level',
  'item-names',
  'triggers',
  'group',
] as const

/** A setting of a type: what each instance may choose. */
export interface Setting {
  readonly kind: (typeof settingKinds)[number]
  /** What it is for, in a sentence. */
  readonly about?: string | undefined
  /** The value where an instance does not give one. Inside a group it counts only where the group is given, or has a default. */
  readonly default?: unknown
  /** For a choice: what can be chosen. For triggers: which of press, enter, leave, touch and signal can be. */
  readonly options?: readonly string[] | undefined
  /** For a group: its settings. */
  readonly fields?: Readonly<Record<string, Setting>> | undefined
  /** Whether an instance (or a group that is given) must give it. */
  readonly needed?: boolean | undefined
}

const setting: z.ZodType<Setting> = z
  .lazy(() =>
    z.strictObject({
      kind: z.enum(settingKinds),
      about: text.optional(),
      default: z.unknown().optional(),
      options: z.array(z.string().max(80)).min(1).optional(),
      fields: z.record(name, setting).optional(),
      needed: z.boolean().optional(),
    }),
  )
  .meta({ id: 'setting', description: 'A setting of a type: what each instance may choose.' })

/** A zone of an interactable: a circle round its place, or a polygon in its own frame. */
export const zone = z
  .strictObject({
    radius: length.optional().describe('A circle, so many metres round its place.'),
    box: z.tuple([length, length]).optional().describe('A rectangle: metres along its own x and its own y.'),
    turn: z.number().optional().describe('With box: degrees that it is turned by, counter-clockwise.'),
    sector: z
      .strictObject({
        radius: length.describe('Metres.'),
        degrees: z.number().min(1).max(359).describe('How wide it opens.'),
        facing: z
          .number()
          .optional()
          .describe('Where its middle points, in its own frame: 0 along x, 90 along y; 90 if left out.'),
      })
      .optional()
      .describe('A slice of a circle, with a corner on its arc every five degrees or oftener.'),
    ring: z
      .strictObject({ from: length, to: length })
      .refine(({ from, to }) => from < to, { message: 'from less than to' })
      .optional()
      .describe('Not nearer than from, and not farther off than to; metres.'),
    outline: outline.optional().describe('Any shape, by its corners in its own frame.'),
    at: point
      .optional()
      .describe(
        'With radius, box, sector and ring: where its middle, or its tip, is in the own frame of what it belongs to.',
      ),
  })
  .superRefine((value, context) => {
    exactlyOne(value, ['radius', 'box', 'sector', 'ring', 'outline'], context)
    together(value, 'turn', ['box'], context)
    together(value, 'at', ['radius', 'box', 'sector', 'ring'], context)
  })

/** How near, and how plainly seen, an interactable must be to answer a press. */
export const range = z.strictObject({
  radius: length.optional().describe('Metres from the hand to the point it is measured from; 1.5 if left out.'),
  until: length
    .optional()
    .describe(
      'Metres at which it ends again for whoever has come within radius; not less than that. As radius if left out.',
    ),
  heights: z
    .strictObject({ from: z.number().min(-100).max(100), to: z.number().min(-100).max(100) })
    .refine(({ from, to }) => from < to, 'from must be lower than to')
    .optional()
    .describe('How high a hand must be, above the floor that this stands on; metres. Any height if left out.'),
  scales: z.boolean().optional().describe('Whether it grows with the scale of an instance; it does.'),
  from: z
    .union([z.enum(['handle', 'centre']), point3])
    .optional()
    .describe('handle, centre, or [x, y, z] in its frame.'),
  'stands-in': zone
    .optional()
    .describe('Where, besides, a character must stand: a shape in its own frame, such as a sector in front of it.'),
  sight: z.boolean().optional().describe('Whether walls and bodies between count; they do.'),
  aim: z
    .number()
    .min(1)
    .max(180)
    .optional()
    .describe('Degrees to either side within which one must look at the handle; any way if left out.'),
})

/** Where the handle is: a point in the body's own frame, or a side of the body. */
export const handle = z.union([
  point3,
  z.strictObject({
    'away-from': orSetting(z.enum(['left', 'right'])).describe(
      'At the end of the body away from this one, seen along its own y.',
    ),
    inset: length.optional().describe('Metres from that end; 0.1 if left out.'),
    height: z.number().min(-100).max(100).optional().describe('Metres above the ground; 1 if left out.'),
  }),
])

/** A body on the ground: a rectangle round the place, in its own frame. */
export const body = z.strictObject({
  size: z.tuple([length, length]).describe('Metres along its own x and its own y.'),
})

/** Settings that cannot be meant together. */
const contradiction = z.strictObject({
  settings: z.array(settingPath).min(2).describe('Each is given, and not false, in the instance.'),
  because: text.describe('Why they cannot be meant together.'),
})

/** A definition of a type: the same for built-in types and for a designer's own. */
export const typeDefinition = z.strictObject({
  about: text.optional(),
  extends: name
    .optional()
    .describe('Another type: rows of the same name are replaced in place, others added at the end.'),
  settings: z.record(name, setting).optional(),
  contradictions: z.array(contradiction).optional().describe('Settings that cannot be given together.'),
  states: z.record(name, state).optional(),
  transitions: z.array(transition).optional(),
  zones: z.record(name, zone).optional(),
  body: body.optional(),
  dial: dial.optional(),
  remembers: z.array(name).min(1).max(8).optional().describe('What it remembers of each character, yes or no.'),
  contains: z
    .strictObject({
      items,
      if: provided.optional(),
      empty: provided.optional().describe('Where this is so, nothing is in it at first: only what is put in.'),
    })
    .optional()
    .describe('What is in it, until it is taken out.'),
  'in-the-way': orSetting(inTheWay).optional(),
  tags: z.array(name).optional(),
  handle: handle.optional(),
  range: range.optional(),
  feedback: feedbackByMoment.optional(),
})

/** A definition of a type: the same for built-in types and for a designer's own. */
export type TypeDefinition = z.infer<typeof typeDefinition>
/** A state of a type. */
export type StateDefinition = z.infer<typeof state>
/** A transition of a type. */
export type TransitionDefinition = z.infer<typeof transition>
/** Where a handle is. */
export type HandleDefinition = z.infer<typeof handle>
/** A range. */
export type RangeDefinition = z.infer<typeof range>
/** A zone of an interactable. */
export type ZoneDefinition = z.infer<typeof zone>
