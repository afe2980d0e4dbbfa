import * as z from 'zod'
import {
  blocks,
  count,
  degrees,
  inTheWay,
  length,
  name,
  number,
  outline,
  point,
  point3,
  rolesOf,
  seconds,
  text,
} from './parts.ts'
import { feedbackByMoment } from './feedback.ts'
import { goal, requirement } from './rules.ts'
import { levelVersion, roles } from './vocabulary.ts'
import { body, handle, range, typeDefinition, zone } from './types.ts'

/** The most characters in a level. */
const mostCharacters = 4

const room = z.strictObject({
  title: text.optional(),
  storey: name.optional().describe('The storey that it is on.'),
  outline,
})

const storey = z.strictObject({
  title: text.optional(),
  floor: z.number().min(-1000).max(1000).optional().describe('Metres above the ground of the level; 0 if left out.'),
  'drawn-at': point
    .optional()
    .describe('Where the spot is drawn that lies straight above or below [0, 0]: storeys are drawn side by side.'),
})

const doorway = z.strictObject({
  joins: z.tuple([name, name]).describe('The two rooms.'),
  at: point.describe('Its middle.'),
  width: length.describe('Metres across the way through.'),
  depth: length.describe('Metres along the way through: how thick the wall is.'),
  turn: degrees.optional().describe('Which way leads through: 0 along x, 90 along y. Found out if left out.'),
})

const obstacle = z.strictObject({
  outline,
  blocks: blocks.optional().describe('Everything if left out.'),
})

/** An item. */
export const item = z.strictObject({
  title: text.optional(),
  stacks: z
    .union([z.boolean(), z.int().min(2).max(9999)])
    .optional()
    .describe('How many one character can carry: a number, true for 99; one if left out.'),
  shared: z.boolean().optional().describe('All characters hold it together; each its own if left out.'),
})

const place = z.strictObject({
  at: point,
  height: z.number().min(-100).max(100).optional().describe('Metres above the ground of the level; 0 if left out.'),
  facing: degrees.optional().describe('Which way one looks on arriving: 0 along x, 90 along y; as before if left out.'),
})

const flag = z.strictObject({
  title: text.optional(),
  initial: z.boolean().optional().describe('False if left out.'),
})

const counter = z.strictObject({
  title: text.optional(),
  initial: number.optional().describe('0 if left out.'),
  most: z.int().min(1).max(9999).describe('It counts no further than this.'),
})

const instance = z
  .strictObject({
    type: name,
    in: name.optional().describe('The doorway that it stands in, and fills.'),
    at: z.union([point, point3]).optional().describe('Where it stands: [x, y] or [x, y, height of its handle].'),
    turn: degrees.optional(),
    scale: z
      .number()
      .min(0.01)
      .max(100)
      .optional()
      .describe('How many times as large as its type: body, handle, zones, slide and range; 1 if left out.'),
    initial: name.optional().describe('The state that it starts in; the first of its type if left out.'),
    set: z.record(name, z.unknown()).optional().describe('The settings of its type.'),
    range: range.optional(),
    handle: handle.optional(),
    body: body.optional(),
    zones: z.record(name, zone).optional(),
    tags: z.array(name).optional().describe('Names shared by several: a signal can go to all that bear one.'),
    who: rolesOf.optional().describe('Who may set its transitions off; players if left out.'),
    'in-the-way': inTheWay.optional(),
    'test-only': z.boolean().optional().describe('It is there for trying things out only, not for players.'),
    priority: z.int().min(-100).max(100).optional().describe('Of several in range the highest answers; 0 if left out.'),
    feedback: feedbackByMoment.optional(),
  })
  .superRefine((value, context) => {
    if ((value.in === undefined) === (value.at === undefined)) {
      context.addIssue({ code: 'custom', message: 'exactly one of in, at', path: value.in === undefined ? [] : ['at'] })
    }
  })

const character = z.strictObject({
  role: z.enum(roles),
  start: point,
  facing: degrees.optional().describe('Which way it looks at the start: 0 along x, 90 along y; 90 if left out.'),
  radius: length.max(5).describe('Half its width, in metres.'),
  speed: length.max(100).describe('Metres a second.'),
  hand: z.number().min(0).max(10).describe('How high the hand is, in metres.'),
  reach: length.max(20).describe('How far the hand reaches, in metres.'),
  'reach-offset': z
    .number()
    .min(0)
    .max(5)
    .optional()
    .describe(
      'How far ahead of the hand, towards what is pressed, its reach is measured from, in metres; 0 if left out.',
    ),
  probe: length
    .max(5)
    .optional()
    .describe(
      'It presses only what it looks at: handles no farther than this from the line along which it looks, in metres; whatever is in reach if left out.',
    ),
  carries: z.record(name, count).optional().describe('What is carried at the start.'),
  'carries-most': z
    .int()
    .min(1)
    .max(9999)
    .optional()
    .describe('How many things it can carry in all; any number if left out.'),
})

/** A finding that is accepted. */
const acceptance = z.strictObject({
  rule: name.describe('The rule, such as silent-refusal.'),
  of: z
    .string()
    .min(1)
    .max(200)
    .optional()
    .describe('What the finding is about, as the check says it: mill-door, or mill-door/open; the level if left out.'),
  because: text.describe('Why it may stay.'),
})

/** A level file, as it is written. */
export const levelSchema = z
  .strictObject({
    zintel: z.literal(levelVersion).describe('The version of the format.'),
    title: text,
    about: text.optional(),
    common: z
      .array(text)
      .min(1)
      .optional()
      .describe('Files beside this one with types and items that several levels have in common.'),
    resolution: z
      .number()
      .min(0.02)
      .max(1)
      .optional()
      .describe('Metres between samples of the ground; 0.1 if left out.'),
    tick: seconds.max(10).optional().describe('Seconds in a tick of exploring; 0.1 if left out.'),
    rooms: z.record(name, room).refine((rooms) => Object.keys(rooms).length > 0, { error: 'at least one room' }),
    storeys: z.record(name, storey).optional().describe('Floors that lie over one another, drawn side by side.'),
    doorways: z.record(name, doorway).optional(),
    obstacles: z.record(name, obstacle).optional(),
    items: z.record(name, item).optional(),
    flags: z.record(name, flag).optional(),
    counters: z.record(name, counter).optional(),
    places: z.record(name, place).optional().describe('Where one can be moved to.'),
    types: z.record(name, typeDefinition).optional(),
    interactables: z.record(name, instance).optional(),
    characters: z
      .record(name, character)
      .refine((all) => Object.keys(all).length <= mostCharacters, { error: 'at most 4 characters' })
      .refine((all) => Object.values(all).some(({ role }) => role === 'player'), { error: 'at least one player' }),
    goals: z.record(name, goal).optional(),
    requirements: z.record(name, requirement).optional(),
    'accepted-findings': z
      .array(acceptance)
      .min(1)
      .optional()
      .describe('Findings that are known, and meant to stay: checks list them apart.'),
  })
  .meta({ title: 'Zintel level' })

/** A level: one plain value, the same whether it was written in TypeScript, YAML or JSON. */
export type Level = z.infer<typeof levelSchema>
/** A placed instance of a type. */
export type Instance = z.infer<typeof instance>
/** A walkable polygon. */
export type Room = z.infer<typeof room>
/** A gap that joins two rooms. */
export type Doorway = z.infer<typeof doorway>
/** Who can act. */
export type Character = z.infer<typeof character>
