import * as z from 'zod'

const place = z
  .strictObject({
    file: z.string().nullable(),
    line: z.int().min(1).nullable().describe('Counted from 1.'),
    column: z.int().min(1).nullable().describe('Counted from 1.'),
    path: z.string().describe('The path in the level, such as interactables.mill-door.set.lock.'),
  })
  .nullable()

const who = z.string().describe('Which character does it, by name; for a wait, the first.')

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
    chance: z.string().nullable().describe('What chance has to draw for it, where chance decides.'),
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
  z.strictObject({
    who,
    do: z.literal('start'),
    at: z.string().describe('The start of the project at which the play begins; the usual one where no step says so.'),
    text: z.string(),
  }),
  z.strictObject({ who, do: z.literal('wait'), ms: z.int().min(1).describe('Milliseconds.'), text: z.string() }),
])

const severity = z.enum(['error', 'warning', 'advice'])

const summary = {
  rule: z.string(),
  severity,
  subject: z.string(),
  about: z.string().nullable().describe('The interactable that it is about; null where it is about none.'),
  place,
  message: z.string().describe('What happens to the player, or what is wrong in the file.'),
}

const edit = z.discriminatedUnion('do', [
  z.strictObject({ do: z.literal('replace'), path: z.string(), value: z.unknown() }),
  z.strictObject({ do: z.literal('rename'), path: z.string(), name: z.string() }),
  z.strictObject({ do: z.literal('remove'), path: z.string() }),
  z.strictObject({ do: z.literal('add'), path: z.string(), key: z.string(), value: z.unknown() }),
  z.strictObject({ do: z.literal('append'), path: z.string(), value: z.unknown() }),
])

const lines = z.strictObject({ line: z.int().min(1), was: z.array(z.string()), becomes: z.array(z.string()) })

const fix = z.strictObject({
  says: z.string().describe('What to do.'),
  automatic: z.boolean().describe('Whether zintel check --fix makes it.'),
  edit: edit.nullable().describe('The change of the file, by paths in the level; null where it is for people to find.'),
  lines: lines.nullable().describe('The lines that it changes, from this line on, and as they would be.'),
})

const triedFix = z.strictObject({ says: z.string().describe('What to do.'), edit, lines: lines.nullable() })

const whole = {
  ...summary,
  steps: z.array(step).describe('Steps from the start that show it; replayed. Empty where none are needed.'),
  spots: z
    .array(z.strictObject({ at: z.tuple([z.number(), z.number()]), text: z.string() }))
    .describe('Spots on the ground that show it, in metres, each with what is to be said of it.'),
  short: z.boolean().describe('Whether fewer steps might do: none of these can be left out. Else they are the fewest.'),
  lastSafe: z
    .strictObject({
      after: z.int().min(0).describe('After so many of the steps; 0: at the start.'),
      steps: z.array(step).describe('Steps from there on with which the goal is met; replayed.'),
    })
    .nullable()
    .describe('Of steps that lose a goal, the last moment at which it can still be met. Null where none was found.'),
  fix,
  tried: z
    .array(triedFix)
    .describe('The smallest changes, of those tried, with which the goal can be met, or is not lost so any more.'),
  table: z
    .array(z.strictObject({ value: z.string().nullable(), instances: z.array(z.string()) }))
    .describe('For an instance that differs from its siblings: which instances say what, those that most say first.'),
}

const following = z.strictObject(whole)

const finding = z.strictObject({
  ...whole,
  severity: severity.describe('The worst of the group: of this finding and of all that follow from it.'),
  headline: z
    .string()
    .nullable()
    .describe('What the worst says that follows from this; null where nothing that follows is worse.'),
  also: z.array(z.string()).describe('Other subjects of which the same line says the same.'),
  follows: z.array(following).describe('Findings that would be gone if this one were fixed.'),
})

const question = z.strictObject({
  rule: z.string(),
  subject: z.string(),
  answer: z.enum(['found', 'ruled-out', 'undecided']),
  why: z
    .string()
    .nullable()
    .describe(
      'For an undecided one: what kept it from being settled. For one that is ruled out: what that does not hold for.',
    ),
})

const counts = z.strictObject({
  situations: z.int(),
  moves: z.int(),
  patches: z.int(),
  replays: z.int().describe('Plays that were played to check what is claimed.'),
  found: z.int(),
  ruledOut: z.int(),
  undecided: z.int(),
})

const problem = z.strictObject({
  code: z.string(),
  place,
  message: z.string(),
  found: z.string().nullable(),
  expected: z.string().nullable(),
  nearest: z.string().nullable(),
})

const telling = z.strictObject({
  interactable: z.string(),
  moment: z.string().describe('A moment of the interactable, or transition for what a transition tells by itself.'),
  which: z
    .string()
    .nullable()
    .describe('The transition, or the reasons of a refusal; null where there is no more to say.'),
  happens: z.enum(['yes', 'undecided']).describe('yes: a play has shown it.'),
  channels: z.array(z.strictObject({ channel: z.string(), texts: z.array(z.string()) })),
})

const fileReport = z.strictObject({
  version: z.literal(1),
  file: z.string(),
  title: z.string().nullable().describe('The title of the level; null where it could not be read.'),
  outcome: z.enum(['checked', 'unusable', 'interrupted']),
  quick: z.boolean().describe('Whether no changes were tried with which goals could be met.'),
  withoutLevels: z
    .array(z.string())
    .describe(
      'Levels that exits lead to, where the level was checked without its project: what they give, and coming back from them, is left out of account.',
    ),
  unread: z
    .array(z.string())
    .describe(
      'The other levels of the project that could not be used: what they give, ask for and lead to is not known, and what hangs on it is undecided.',
    ),
  together: z
    .array(z.string())
    .describe(
      'The levels of the project that were explored together with this one, by name; empty where it was explored by itself.',
    ),
  diagnostics: z.array(problem).describe('Why the file could not be used.'),
  questions: z.array(question),
  counts,
  findings: z.array(finding).describe('In the order in which one would fix them.'),
  leftOut: z.int().min(0).describe('How many findings --rule or --severity left out.'),
  known: z.int().min(0).describe('How many findings --baseline left out, because they are known.'),
  margins: z
    .array(
      z.strictObject({
        goal: z.string(),
        spare: z
          .number()
          .nullable()
          .describe('Seconds by which the tightest step may come later; null: nothing on the way runs out.'),
        step: z.int().min(1).nullable().describe('The step, from 1 on, that must not come later than that.'),
        text: z.string().nullable().describe('What that step does.'),
        by: z
          .strictObject({ interactable: z.string(), transition: z.string(), given: z.number() })
          .nullable()
          .describe('What comes first otherwise, and how many seconds it gives.'),
        steps: z.array(step).describe('The steps to the goal.'),
      }),
    )
    .nullable()
    .describe(
      'The time to spare on the way to each goal that can be met; null where it was not asked for (--margins).',
    ),
  accepted: z
    .array(z.strictObject({ ...summary, because: z.string() }))
    .describe('Findings that the level file accepts, with its reason.'),
  feedback: z.array(telling).describe('What is perceived of every moment that can happen.'),
  account: z.array(z.string()).describe('How the level was explored, in sentences.'),
})

/** The report of `zintel check --format json`: one object a file. */
export const reportSchema = z.array(fileReport).meta({ title: 'Zintel check report' })

/** What was found out about one file. */
export type FileReport = z.infer<typeof fileReport>
/** One problem, with the steps that show it and what follows from it. */
export type Finding = z.infer<typeof finding>
/** A finding that follows from another one. */
export type FollowingFinding = z.infer<typeof following>
/** A finding without its steps and its fix. */
export type FindingSummary = Pick<FollowingFinding, keyof typeof summary>
/** What is perceived of a moment. */
export type Telling = z.infer<typeof telling>
/** A question and its answer. */
export type Question = z.infer<typeof question>
/** A step that a tester can do, with its words. */
export type ReportStep = z.infer<typeof step>

/** The JSON Schema (2020-12) of check reports. */
export function reportJsonSchema(): object {
  return { $id: 'urn:zintel:check:1', ...z.toJSONSchema(reportSchema) }
}
