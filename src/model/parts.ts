import * as z from 'zod'
import { roles } from './vocabulary.ts'

/** The small parts that every definition is made of. All lengths are metres, all times seconds, all turns degrees. */

/** A name: lower-case letters, digits and dashes, beginning with a letter. */
export const name = z
  .string()
  .max(80)
  .regex(/^[a-z][a-z0-9-]*$/, { error: 'a name of lower-case letters, digits and dashes, beginning with a letter' })

const metres = z.number().min(-10_000).max(10_000)

/** A length in metres, more than nothing. */
export const length = z.number().min(0.01).max(10_000)

/** A point seen from above: x east and y north, in metres. */
export const point = z.tuple([metres, metres]).describe('A point seen from above: [x east, y north], in metres.')

/** A point in three dimensions: x east, y north and z up, in metres. */
export const point3 = z.tuple([metres, metres, metres]).describe('A point: [x east, y north, z up], in metres.')

/** A polygon as its corners in order, either way round; the last joins the first. */
export const outline = z
  .array(point)
  .min(3)
  .max(500)
  .describe('The corners of a polygon in order, in metres; the last joins the first.')

/** Degrees, counter-clockwise. */
export const degrees = z.number().min(-3600).max(3600).describe('Degrees, counter-clockwise.')

/** Seconds with at most three decimals, at least 0.001. */
export const seconds = z
  .number()
  .min(0.001, { abort: true })
  .max(86_400, { abort: true })
  .refine(wholeMilliseconds, { error: 'seconds with at most three decimals' })
  .describe('Seconds, with at most three decimals.')

/** A whole number from 1 to 9999. */
export const count = z.int().min(1).max(9999)

/** A whole number from 0 to 9999. */
export const number = z.int().min(0).max(9999)

/** Where the wheels of a dial stand, from the first on. */
export const digits = z.array(z.int().min(0).max(99)).min(1).max(8)

/** A text that a person reads. */
export const text = z.string().min(1).max(2000)

/** One role, or several. */
export const rolesOf = z.union([z.enum(roles), z.array(z.enum(roles)).min(1)])

/** What happens where somebody would be enclosed by a body that comes to block. */
export const inTheWay = z
  .enum(['wait', 'reopen', 'push'])
  .describe('wait until the way is clear; reopen: stay, and start again; push the character there out.')

/** What a body can block. */
export const blocks = z
  .array(z.enum(['walk', 'sight', 'camera']))
  .describe('What the body blocks: walking, sight, and, for an engine to heed, the camera.')

/** Something that a body can block. */
export type Blocked = z.output<typeof blocks>[number]

/**
 * Whether a row of a type is there in an instance: the path of a setting (`lock`: it is given, and not `false`), a value of
 * one (`{ setting: lock.then, is: spend }`), or several of these joined.
 */
export type Provided =
  | string
  | { readonly setting: string; readonly is: string | number | boolean }
  | { readonly all: readonly Provided[] }
  | { readonly any: readonly Provided[] }
  | { readonly not: Provided }

/** The path of a setting, such as `lock.item`. */
export const settingPath = z.string().regex(/^[a-z][a-z0-9-]*(\.[a-z][a-z0-9-]*)*$/)

/** See `Provided`. */
export const provided: z.ZodType<Provided> = z
  .lazy(() =>
    z.union([
      settingPath,
      z.strictObject({ setting: settingPath, is: z.union([z.string(), z.number(), z.boolean()]) }),
      z.strictObject({ all: z.array(provided) }),
      z.strictObject({ any: z.array(provided) }),
      z.strictObject({ not: provided }),
    ]),
  )
  .meta({ id: 'provided', description: 'Whether this is there in an instance, by its settings.' })

/** Stands for the value of a setting: `{ setting: lock.item }`; with `or`, for another where it is not given. */
export const settingRef = z
  .strictObject({
    setting: settingPath,
    or: z.union([z.string(), z.number(), z.boolean()]).optional().describe('The value where the setting is not given.'),
  })
  .describe('The value of a setting, by its path.')

/** A value, or the setting that it is taken from. */
export function orSetting<T extends z.ZodType>(value: T): z.ZodUnion<[T, typeof settingRef]> {
  return z.union([value, settingRef])
}

function wholeMilliseconds(value: number): boolean {
  return Math.abs(value * 1000 - Math.round(value * 1000)) < 1e-6
}
