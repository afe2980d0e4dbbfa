import * as z from 'zod'
import type { WalkthroughResult } from './rehearsal.ts'

const failure = z.strictObject({
  step: z.int().min(1).describe('Which step it was, counted from 1.'),
  text: z.string().describe('What was to be done, or was expected.'),
  instead: z.string().describe('What was so instead.'),
  line: z.int().min(1).nullable().describe('Its line in the walkthrough file.'),
  column: z.int().min(1).nullable(),
})

/** What came of playing one walkthrough: a line of `zintel play --format json`, after the log. */
export const verdictSchema = z
  .strictObject({
    'zintel-verdict': z.literal(1).describe('The version of the format.'),
    walkthrough: z.string().describe('The file.'),
    level: z.string().describe('The level or project file that it was played in.'),
    title: z.string(),
    passed: z.boolean(),
    expectations: z.int().min(0),
    met: z.int().min(0),
    failures: z.array(failure).describe('Expectations that were not met, and steps that could not be made.'),
  })
  .meta({ title: 'Zintel verdict' })

/** What came of playing one walkthrough. */
export type Verdict = z.infer<typeof verdictSchema>

/** Sums up what came of a walkthrough that was played in a level. */
export function verdictOf(result: WalkthroughResult, walkthrough: string, level: string): Verdict {
  const expected = result.steps.filter((step) => step.isExpectation)
  return {
    'zintel-verdict': 1,
    walkthrough,
    level,
    title: result.title,
    passed: result.passed,
    expectations: expected.length,
    met: expected.filter(({ failure: failed }) => failed === null).length,
    failures: result.steps.flatMap(({ failure: instead, text, place }, i) =>
      instead === null ? [] : [{ step: i + 1, text, instead, line: place.line, column: place.column }],
    ),
  }
}

/** The JSON Schema (2020-12) of a verdict. */
export function verdictJsonSchema(): object {
  return { $id: 'urn:zintel:play:1', ...z.toJSONSchema(verdictSchema) }
}
