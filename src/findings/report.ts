import { z } from 'zod'

const place = z
  .strictObject({
    file: z.string().nullable(),
    line: z.int().min(1).nullable().describe('Counted from 1.'),
    column: z.int().min(1).nullable().describe('Counted from 1.'),
    path: z.string().describe('The path in the level, such as interactables.mill-door.set.lock.'),
  })
  .nullable()

const who = z.int().min(0).describe('Which character does it, counted from 0 in file order.')

const step = z.discriminatedUnion('do', [
  z.strictObject({
    who,
    do: z.literal('walk-to'),
    target: z.string().describe('The interactable, doorway or room where the walk ends.'),
    via: z.array(z.tuple([z.number(), z.number()])).describe('The corners of the walk in metres; the last is its end.'),
    text: z.string(),
  }),
  z.strictObject({
    who,
    do: z.literal('press'),
    on: z.string(),
    way: z.string().nullable().describe('The kind of press, where it is not the usual one.'),
    option: z.string().nullable().describe('The option that is chosen from a prompt.'),
    looking: z.boolean().describe('Whether one has to look at it first.'),
    kept: z.boolean().describe('Whether the press is kept down.'),
    text: z.string(),
  }),
  z.strictObject({ who, do: z.literal('release'), text: z.string() }),
  z.strictObject({ who, do: z.literal('dismiss'), text: z.string() }),
  z.strictObject({
    who,
    do: z.literal('dial'),
    on: z.string(),
    wheel: z.int().min(1),
    to: z.int().min(0),
    text: z.string(),
  }),
  z.strictObject({ who, do: z.literal('wait'), ms: z.int().min(1).describe('Milliseconds.'), text: z.string() }),
])

const finding = z.strictObject({
  rule: z.string(),
  severity: z.enum(['error', 'warning', 'advice']),
  subject: z.string(),
  place,
  message: z.string(),
  steps: z.array(step).describe('Steps from the start that show it; replayed. Empty where none are needed.'),
  short: z.boolean().describe('Whether fewer steps might do: none of these can be left out. Else they are the fewest.'),
  follows: z
    .array(z.strictObject({ rule: z.string(), severity: z.string(), subject: z.string(), place, message: z.string() }))
    .describe('Findings that would be gone if this one were mended.'),
})

const question = z.strictObject({
  rule: z.string(),
  subject: z.string(),
  answer: z.enum(['found', 'absent', 'open']),
  why: z.string().nullable().describe('For an open answer: what kept it from being settled.'),
})

const counts = z.strictObject({
  situations: z.int(),
  moves: z.int(),
  patches: z.int(),
  replays: z.int().describe('Plays that were played to check what is claimed.'),
  found: z.int(),
  absent: z.int(),
  open: z.int(),
})

const problem = z.strictObject({
  code: z.string(),
  place,
  message: z.string(),
  found: z.string().nullable(),
  expected: z.string().nullable(),
  nearest: z.string().nullable(),
})

const fileReport = z.strictObject({
  version: z.literal(1),
  file: z.string(),
  title: z.string().nullable().describe('The title of the level; null where it could not be read.'),
  outcome: z.enum(['checked', 'unusable', 'interrupted']),
  diagnostics: z.array(problem).describe('Why the file could not be used.'),
  questions: z.array(question),
  counts,
  findings: z.array(finding),
})

/** The report of `zintel check --format json`: one object a file. */
export const reportSchema = z.array(fileReport).meta({ title: 'Zintel check report' })

/** What was found out about one file. */
export type FileReport = z.infer<typeof fileReport>
/** One problem, with the steps that show it and what follows from it. */
export type Finding = z.infer<typeof finding>
/** A question and its answer. */
export type Question = z.infer<typeof question>
/** A step that a tester can do, with its words. */
export type ReportStep = z.infer<typeof step>

/** The JSON Schema (2020-12) of check reports. */
export function reportJsonSchema(): object {
  return z.toJSONSchema(reportSchema)
}
