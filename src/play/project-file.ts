import * as z from 'zod'

const name = z.string().regex(/^[a-z][a-z0-9-]*$/, { error: 'a name of lower-case letters, digits and dashes' })

const member = z.strictObject({
  file: z.string().min(1).max(1000).describe('Its level file, seen from the project file.'),
  remembers: z
    .enum(['everything', 'nothing'])
    .optional()
    .describe('Whether it is as it was left when one returns, or as at first; everything if left out.'),
  except: z.array(name).min(1).optional().describe('The interactables for which it is the other way round.'),
})

const start = z.strictObject({
  level: name,
  place: name.optional().describe('A place of that level; where its characters start if left out.'),
})

/** A project file, as it is written. */
export const projectSchema = z
  .strictObject({
    project: z.literal(1).describe('The version of the format.'),
    title: z.string().min(1),
    about: z.string().optional(),
    start: z
      .union([
        name,
        z.record(name, start).refine((all) => Object.keys(all).length > 0, { error: 'at least one start' }),
      ])
      .describe('The level that one begins in; or several starts by name, of which the first is the usual one.'),
    severities: z
      .record(name, z.enum(['error', 'warning', 'advice']))
      .optional()
      .describe('How bad findings of a rule are in this project, where it is not as usual.'),
    levels: z.record(name, member).refine((all) => Object.keys(all).length > 0, { error: 'at least one level' }),
  })
  .meta({ title: 'Zintel project' })

/** Several levels, joined by exits. */
export type Project = z.infer<typeof projectSchema>

/** A way to begin a project. */
export type Start = z.infer<typeof start>

/** The JSON Schema (2020-12) of project files, for editors. */
export function projectJsonSchema(): object {
  return { $id: 'urn:zintel:project:1', ...z.toJSONSchema(projectSchema, { io: 'input' }) }
}
