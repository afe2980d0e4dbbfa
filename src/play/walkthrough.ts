import { z } from 'zod'
import type { Expanded } from '../interactables/index.ts'
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
  interactable: name.optional().describe('An interactable that was in another state.'),
  flag: name.optional().describe('A flag that was not as it should be.'),
})

const fact = {
  interactable: name.optional(),
  is: z.union([name, z.boolean()]).optional(),
  carries: name.optional(),
  count: count.optional(),
  flag: name.optional(),
  sound: name.optional(),
  message: z.string().min(1).optional(),
  prompt: z.string().min(1).optional(),
  accepted: name.optional(),
  refused: name.optional(),
  ignored: name.optional(),
  because: reason.optional(),
  unanswered: z.literal(true).optional(),
  goal: name.optional(),
}
const factKinds = [
  'interactable',
  'carries',
  'flag',
  'sound',
  'message',
  'prompt',
  'accepted',
  'refused',
  'ignored',
  'unanswered',
  'goal',
] as const

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

const step = z
  .union([
    z.enum(['press']),
    z.strictObject({
      'walk-to': z.union([name, point]).optional().describe('An interactable, a doorway, a room, or [x, y].'),
      via: z.array(point).optional().describe('With walk-to: the corners to walk by, the last of them the end.'),
      press: name.optional().describe('Press, and this one must be what answers.'),
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
    const given = (['walk-to', 'press', 'steer', 'wait', 'expect'] as const).filter((key) => value[key] !== undefined)
    if (given.length !== 1) tell(context, [], 'exactly one of walk-to, press, steer, wait, expect')
    if (value.via !== undefined && value['walk-to'] === undefined) tell(context, ['via'], 'walk-to beside it')
  })

/** A walkthrough file, as it is written. */
export const walkthroughSchema = z
  .strictObject({
    walkthrough: z.literal(1).describe('The version of the format.'),
    title: z.string().min(1),
    about: z.string().optional(),
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

/** Reads a walkthrough, and looks up its names in a level. Never throws. */
export function readWalkthrough(text: string, file: string | null, expanded: Expanded): Reading<Walkthrough> {
  const reading = shaped(readSource(text, file), walkthroughSchema)
  if (!reading.value) return reading
  const diagnostics = unknownNames(reading.value, reading.source, expanded)
  return diagnostics.length === 0 ? reading : { ...reading, value: null, diagnostics }
}

/** The JSON Schema (2020-12) of walkthrough files, for editors. */
export function walkthroughJsonSchema(): object {
  return z.toJSONSchema(walkthroughSchema, { io: 'input' })
}

function unknownNames({ steps }: Walkthrough, source: Source, expanded: Expanded): Diagnostic[] {
  const { level } = expanded
  const interactables = expanded.interactables.map((one) => one.name)
  const places = [...interactables, ...Object.keys(level.rooms), ...Object.keys(level.doorways ?? {})]
  const items = expanded.items.map((one) => one.name)
  const flags = expanded.flags.map((one) => one.name)
  const goals = expanded.goals.map((one) => one.name)
  const problems: Diagnostic[] = []
  const look = (kind: string, wanted: unknown, known: readonly string[], path: string): void => {
    if (typeof wanted !== 'string' || known.includes(wanted)) return
    const message = `There is no ${kind} ${quoted(wanted)} in the level.`
    problems.push(diagnostic('wrong-shape', source.place(path), message, { nearest: nearestName(wanted, known) }))
  }
  const lookAtFact = (one: Fact, path: string): void => {
    for (const key of ['interactable', 'accepted', 'refused', 'ignored'] as const) {
      look('interactable', one[key], interactables, `${path}.${key}`)
    }
    const placed = expanded.interactables.find(({ name: known }) => known === one.interactable)
    if (placed)
      look(
        'state',
        one.is,
        placed.states.map((state) => state.name),
        `${path}.is`,
      )
    look('item', one.carries, items, `${path}.carries`)
    look('flag', one.flag, flags, `${path}.flag`)
    look('goal', one.goal, goals, `${path}.goal`)
    look('item', one.because?.carries, items, `${path}.because.carries`)
    look('interactable', one.because?.interactable, interactables, `${path}.because.interactable`)
    look('flag', one.because?.flag, flags, `${path}.because.flag`)
  }
  for (const [i, one] of steps.entries()) {
    if (typeof one === 'string') continue
    const path = `steps.${String(i)}`
    look('interactable, room or doorway', one['walk-to'], places, `${path}.walk-to`)
    look('interactable', one.press, interactables, `${path}.press`)
    if (!one.expect) continue
    lookAtFact(one.expect, `${path}.expect`)
    if (one.expect.not) lookAtFact(one.expect.not, `${path}.expect.not`)
  }
  return problems
}

type Context = z.core.$RefinementCtx<unknown>

function oneFact(
  value: Partial<Record<(typeof factKinds)[number] | 'because' | 'count' | 'is', unknown>>,
  context: Context,
): void {
  const given = factKinds.filter((key) => value[key] !== undefined)
  if (given.length !== 1) tell(context, given.length > 1 ? [given[1]!] : [], `exactly one of ${factKinds.join(', ')}`)
  if (value.because !== undefined && value.refused === undefined) tell(context, ['because'], 'refused beside it')
  if (value.count !== undefined && value.carries === undefined) tell(context, ['count'], 'carries beside it')
  if (value.interactable !== undefined && typeof value.is !== 'string') tell(context, ['is'], 'the name of a state')
}

function tell(context: Context, path: string[], expected: string): void {
  context.addIssue({ code: 'custom', message: expected, path })
}
