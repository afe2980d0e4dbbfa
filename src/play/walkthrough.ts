import * as z from 'zod'
import { type Expanded, zoneName } from '../interactables/index.ts'
import {
  type Diagnostic,
  diagnostic,
  milliseconds,
  nearestName,
  quoted,
  type Reading,
  readSource,
  shaped,
  type Source,
} from '../model/index.ts'

const name = z.string().regex(/^[a-z][a-z0-9-]*$/, { error: 'a name of lower-case letters, digits and dashes' })
const seconds = z
  .number()
  .min(0.001)
  .max(86_400)
  .refine((value) => Math.abs(value * 1000 - milliseconds(value)) < 1e-6, {
    error: 'seconds with at most three decimals',
  })
const point = z.tuple([z.number().min(-10_000).max(10_000), z.number().min(-10_000).max(10_000)])
const count = z.int().min(0).max(9999)

const reason = z.strictObject({
  carries: name.optional().describe('An item that was missing.'),
  'room-for': name.optional().describe('An item that there was no room for.'),
  interactable: name.optional().describe('An interactable that was in another state.'),
  flag: name.optional().describe('A flag that was not as it should be.'),
})

const shift = z.tuple([z.number(), z.number(), z.number()])

const fact = {
  pose: name.optional().describe('The body of this one stands as the keys beside it say.'),
  'at-least': z.number().min(0).max(1).optional(),
  'at-most': z.number().min(0).max(1).optional(),
  'turned-by': z.number().optional().describe('Degrees.'),
  'moved-by': shift.optional().describe('Metres, in its own frame.'),
  centre: point.optional().describe('Where the middle of its body is, in the frame of the level, in metres.'),
  gone: z.boolean().optional(),
  interactable: name.optional(),
  is: z.union([name, z.boolean(), count]).optional(),
  carries: name.optional(),
  count: count.optional(),
  flag: name.optional(),
  counter: name.optional(),
  dial: z.array(z.int().min(0).max(99)).min(1).max(8).optional().describe('The wheels of the dial of stand so.'),
  option: z.string().min(1).optional().describe('This option can be chosen.'),
  'keeps-pressed': name.optional(),
  sound: name.optional(),
  message: z.string().min(1).optional(),
  prompt: z.string().min(1).optional(),
  accepted: name.optional(),
  refused: name.optional(),
  ignored: name.optional(),
  because: reason.optional(),
  unanswered: z.literal(true).optional(),
  goal: name.optional(),
  signal: name.optional().describe('This signal was sent.'),
  looks: name.optional().describe('This interactable looks as like says.'),
  like: z.string().min(1).optional(),
  contains: name.optional().describe('So many of this item are in the interactable of; 1 if count is left out.'),
  of: name.optional(),
  spot: point.optional().describe('Stands there, to a centimetre.'),
  facing: z.number().optional().describe('Looks that way: 0 along x, 90 along y; to a degree.'),
  inside: name.optional().describe('Stands in this room or doorway; with of, in this zone of that interactable.'),
  pitch: z.number().optional().describe('With sound: how high it is.'),
  popup: z.string().min(1).optional().describe('This popup is up.'),
  'pointer-free': z.boolean().optional(),
  highlight: name.optional().describe('This interactable stands out.'),
  light: name.optional().describe('A light of this colour shines.'),
  shake: name.optional(),
  burst: name.optional(),
  icon: name.optional().describe('This icon is on the screen, with count where that is given.'),
  rumble: z.number().min(0).max(1).optional(),
  'held-back': z.literal(true).optional().describe('A popup kept one from doing something.'),
}
/** What can be expected. */
export const factKinds = [
  'pose',
  'interactable',
  'carries',
  'flag',
  'counter',
  'dial',
  'option',
  'keeps-pressed',
  'sound',
  'message',
  'prompt',
  'accepted',
  'refused',
  'ignored',
  'unanswered',
  'goal',
  'signal',
  'looks',
  'contains',
  'inside',
  'spot',
  'facing',
  'popup',
  'pointer-free',
  'highlight',
  'light',
  'shake',
  'burst',
  'icon',
  'rumble',
  'held-back',
] as const

/** What can be expected. */
export type FactKind = (typeof factKinds)[number]

const plainFact = z.strictObject(fact).superRefine(oneFact)

const expectation = z
  .strictObject({
    ...fact,
    not: plainFact.optional().describe('What must not be so, or happen.'),
    within: seconds.optional().describe('Seconds in which it may still come.'),
    for: seconds.optional().describe('With not: seconds for which it must not come.'),
  })
  .superRefine((value, context) => {
    if (value.not === undefined) oneFact(value, context)
    if (value.for !== undefined && value.not === undefined) tell(context, ['for'], 'not beside it')
    if (value.within !== undefined && value.not !== undefined) tell(context, ['within'], 'for, with not')
  })

const stepKinds = [
  'as',
  'give',
  'remove',
  'set',
  'put',
  'walk-to',
  'press',
  'hold',
  'choose',
  'dial',
  'face',
  'touch',
  'steer',
  'wait',
  'expect',
] as const

const step = z
  .union([
    z.enum(['press', 'release', 'dismiss']),
    z.strictObject({
      give: name.optional().describe('TEST-ONLY: the character that acts gets this item.'),
      remove: name.optional().describe('TEST-ONLY: the character that acts loses this item.'),
      count: count.optional().describe('With give and remove: how many; 1 if left out.'),
      set: name
        .optional()
        .describe('TEST-ONLY: this flag is set, or with to: false not set; with to: a number, a counter.'),
      put: name.optional().describe('TEST-ONLY: this interactable is put into the state into.'),
      into: name.optional(),
      as: name.optional().describe('From here on this character acts.'),
      'walk-to': z
        .union([z.string().regex(/^[a-z][a-z0-9-]*(\/[a-z][a-z0-9-]*)?$/), point])
        .optional()
        .describe('An interactable, one of its zones (mill-door/near), a doorway, a room, or [x, y].'),
      via: z.array(point).optional().describe('With walk-to: the corners to walk by, the last of them the end.'),
      press: name.optional().describe('Press, and this one must be what answers.'),
      way: name.optional().describe('With press: the kind of press, where it is not the usual one.'),
      chance: name.optional().describe('With press: what chance draws, where it decides; else it draws by itself.'),
      hold: name.optional().describe('Press and keep pressing, and this one must be what answers.'),
      choose: z.string().min(1).optional().describe('Choose this option from a prompt.'),
      dial: name.optional().describe('Set the wheels of this dial to what to says, one after another.'),
      wheel: z.int().min(1).max(8).optional().describe('With dial: only this wheel.'),
      to: z
        .union([z.array(z.int().min(0).max(99)).min(1).max(8), z.int().min(0).max(9999), z.boolean()])
        .optional()
        .describe('With dial: a number for each wheel; with wheel: one number. With set: true, false or a number.'),
      face: z.union([name, point]).optional().describe('Turn to look at an interactable or at [x, y].'),
      touch: name.optional().describe('Walk up to the body of this one until one touches it.'),
      steer: z
        .union([point, z.literal('stop')])
        .optional()
        .describe('Walk in a direction [x, y] until told otherwise, or stop.'),
      wait: seconds.optional(),
      expect: expectation.optional(),
    }),
  ])
  .superRefine((value, context) => {
    if (typeof value === 'string') return
    const given = stepKinds.filter((key) => value[key] !== undefined)
    if (given.length !== 1) tell(context, [], `exactly one of ${stepKinds.join(', ')}`)
    if (value.way !== undefined && value.press === undefined) tell(context, ['way'], 'press beside it')
    if (value.chance !== undefined && value.press === undefined) tell(context, ['chance'], 'press beside it')
    if (value.chance !== undefined && value.way !== undefined) tell(context, ['chance'], 'no way beside it')
    if (value.wheel !== undefined && value.dial === undefined) tell(context, ['wheel'], 'dial beside it')
    if (value.dial !== undefined && Array.isArray(value.to) === (value.wheel !== undefined)) {
      tell(context, ['to'], value.wheel === undefined ? 'a list of numbers, one for each wheel' : 'one number')
    }
    if (value.to !== undefined && value.dial === undefined && value.set === undefined) {
      tell(context, ['to'], 'dial or set beside it')
    }
    if (value.dial !== undefined && value.to === undefined) tell(context, [], 'to beside dial')
    if (value.set !== undefined && Array.isArray(value.to)) tell(context, ['to'], 'true, false or a number')
    if (value.dial !== undefined && typeof value.to === 'boolean') tell(context, ['to'], 'a number')
    if ((value.put !== undefined) !== (value.into !== undefined)) tell(context, [], 'put and into beside each other')
    if (value.count !== undefined && value.give === undefined && value.remove === undefined) {
      tell(context, ['count'], 'give or remove beside it')
    }
    if (value.via !== undefined && value['walk-to'] === undefined) tell(context, ['via'], 'walk-to beside it')
  })

/** A walkthrough file, as it is written. */
export const walkthroughSchema = z
  .strictObject({
    walkthrough: z.literal(1).describe('The version of the format.'),
    title: z.string().min(1),
    about: z.string().optional(),
    level: z
      .string()
      .min(1)
      .max(1000)
      .optional()
      .describe('The level or project file that it is for, seen from this file.'),
    start: name.optional().describe('In a project: the start that it begins from; the first if left out.'),
    steps: z.array(step).min(1),
  })
  .meta({ title: 'Zintel walkthrough' })

/** A written play: steps, and what is expected after each. */
export type Walkthrough = z.infer<typeof walkthroughSchema>
/** One step of a walkthrough. */
export type WalkthroughStep = Walkthrough['steps'][number]
/** What is expected. */
export type Expectation = z.infer<typeof expectation>
/** One thing that can be so, or have happened. */
export type Fact = z.infer<typeof plainFact>

/** Reads a walkthrough, and looks up its names in a level, or in those of a project. Never throws. */
export function readWalkthrough(
  text: string,
  file: string | null,
  ...levels: readonly Expanded[]
): Reading<Walkthrough> {
  const reading = shaped(readSource(text, file), walkthroughSchema)
  if (!reading.value) return reading
  const diagnostics = unknownNames(reading.value, reading.source, levels)
  return diagnostics.length === 0 ? reading : { ...reading, value: null, diagnostics }
}

/** The JSON Schema (2020-12) of walkthrough files, for editors. */
export function walkthroughJsonSchema(): object {
  return { $id: 'urn:zintel:walkthrough:1', ...z.toJSONSchema(walkthroughSchema, { io: 'input' }) }
}

function unknownNames({ steps }: Walkthrough, source: Source, levels: readonly Expanded[]): Diagnostic[] {
  const all = (list: (expanded: Expanded) => readonly string[]): string[] => [...new Set(levels.flatMap(list))]
  const named = (of: (expanded: Expanded) => readonly { readonly name: string }[]): string[] =>
    all((expanded) => of(expanded).map((one) => one.name))
  const zones = all((expanded) => expanded.zones.map((_, zone) => zoneName(expanded, zone)))
  const interactables = named((expanded) => expanded.interactables)
  const grounds = [...all(({ level }) => [...Object.keys(level.rooms), ...Object.keys(level.doorways ?? {})]), ...zones]
  const places = [...interactables, ...grounds]
  const items = named((expanded) => expanded.items)
  const flags = named((expanded) => expanded.flags)
  const counters = named((expanded) => expanded.counters)
  const goals = named((expanded) => expanded.goals)
  const characters = named((expanded) => expanded.characters)
  const statesOf = (wanted: string | undefined): string[] =>
    levels.flatMap((expanded) =>
      expanded.interactables.flatMap((placed) =>
        placed.name === wanted ? placed.states.map((state) => state.name) : [],
      ),
    )
  const problems: Diagnostic[] = []
  const look = (kind: string, wanted: unknown, known: readonly string[], path: string): void => {
    if (typeof wanted !== 'string' || known.includes(wanted)) return
    const message = `There is no ${kind} ${quoted(wanted)} in the level.`
    problems.push(diagnostic('wrong-shape', source.place(path), message, { nearest: nearestName(wanted, known) }))
  }
  const lookAtFact = (one: Fact, path: string): void => {
    for (const key of [
      'interactable',
      'accepted',
      'refused',
      'ignored',
      'keeps-pressed',
      'pose',
      'looks',
      'of',
      'highlight',
    ] as const) {
      look('interactable', one[key], interactables, `${path}.${key}`)
    }
    const states = statesOf(one.interactable)
    if (states.length > 0) look('state', one.is, states, `${path}.is`)
    look('item', one.carries, items, `${path}.carries`)
    look('item', one.contains, items, `${path}.contains`)
    if (one.of === undefined) look('room or doorway', one.inside, grounds, `${path}.inside`)
    else look('zone', one.inside && `${one.of}/${one.inside}`, zones, `${path}.inside`)
    look('flag', one.flag, flags, `${path}.flag`)
    look('counter', one.counter, counters, `${path}.counter`)
    look('goal', one.goal, goals, `${path}.goal`)
    look('item', one.because?.carries, items, `${path}.because.carries`)
    look('item', one.because?.['room-for'], items, `${path}.because.room-for`)
    look('interactable', one.because?.interactable, interactables, `${path}.because.interactable`)
    look('flag', one.because?.flag, flags, `${path}.because.flag`)
  }
  for (const [i, one] of steps.entries()) {
    if (typeof one === 'string') continue
    const path = `steps.${String(i)}`
    look('character', one.as, characters, `${path}.as`)
    look('interactable, room or doorway', one['walk-to'], places, `${path}.walk-to`)
    look('item', one.give ?? one.remove, items, `${path}.${one.give === undefined ? 'remove' : 'give'}`)
    look('flag or counter', one.set, [...flags, ...counters], `${path}.set`)
    const states = statesOf(one.put)
    if (states.length > 0) look('state', one.into, states, `${path}.into`)
    for (const key of ['press', 'hold', 'dial', 'touch', 'put'] as const) {
      look('interactable', one[key], interactables, `${path}.${key}`)
    }
    look('interactable', one.face, interactables, `${path}.face`)
    if (!one.expect) continue
    lookAtFact(one.expect, `${path}.expect`)
    if (one.expect.not) lookAtFact(one.expect.not, `${path}.expect.not`)
  }
  return problems
}

type Context = z.core.$RefinementCtx<unknown>

type FactPart =
  | 'centre'
  | 'like'
  | 'of'
  | 'pitch'
  | 'because'
  | 'count'
  | 'is'
  | 'at-least'
  | 'at-most'
  | 'turned-by'
  | 'moved-by'
  | 'gone'

function oneFact(value: Partial<Record<(typeof factKinds)[number] | FactPart, unknown>>, context: Context): void {
  const given = factKinds.filter((key) => value[key] !== undefined)
  if (given.length !== 1) tell(context, given.length > 1 ? [given[1]!] : [], `exactly one of ${factKinds.join(', ')}`)
  if (value.because !== undefined && value.refused === undefined) tell(context, ['because'], 'refused beside it')
  if (
    value.count !== undefined &&
    value.carries === undefined &&
    value.contains === undefined &&
    value.icon === undefined
  ) {
    tell(context, ['count'], 'carries, contains or icon beside it')
  }
  const isOf = value.contains !== undefined || value.dial !== undefined
  if (isOf && value.of === undefined) tell(context, [], 'of beside contains or dial')
  if (value.of !== undefined && !isOf && value.inside === undefined) {
    tell(context, ['of'], 'contains, dial or inside beside it')
  }
  if ((value.looks !== undefined) !== (value.like !== undefined)) tell(context, [], 'looks and like beside each other')
  if (value.pitch !== undefined && value.sound === undefined) tell(context, ['pitch'], 'sound beside it')
  if (value.pose === undefined) {
    for (const key of ['at-least', 'at-most', 'turned-by', 'moved-by', 'centre', 'gone'] as const) {
      if (value[key] !== undefined) tell(context, [key], 'pose beside it')
    }
  }
  if (value.counter !== undefined && typeof value.is !== 'number') tell(context, ['is'], 'a number')
  if (value.interactable !== undefined && typeof value.is !== 'string') tell(context, ['is'], 'the name of a state')
}

function tell(context: Context, path: string[], expected: string): void {
  context.addIssue({ code: 'custom', message: expected, path })
}
