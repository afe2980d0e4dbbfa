import { z } from 'zod'
import { count, name, orSetting, seconds, settingRef, text } from './parts.ts'

/** Stands for the value of a setting. */
export type SettingRef = z.infer<typeof settingRef>

/**
 * Something that holds or does not. Exactly one of `carries`, `interactable`, `flag`, `all`, `any`, `not` is given.
 * `carries` asks whoever acts, or any player where nobody does (a timer, the end of a motion, a goal).
 */
export interface Condition {
  readonly carries?: string | SettingRef | undefined
  /** With `carries`: at least so many; 1 where it is left out. */
  readonly count?: number | SettingRef | undefined
  readonly interactable?: string | SettingRef | undefined
  readonly flag?: string | SettingRef | undefined
  /** With `interactable`: its state, or several of which one will do. With `flag`: true (also where left out) or false. */
  readonly is?: string | boolean | readonly string[] | undefined
  readonly all?: readonly Condition[] | undefined
  readonly any?: readonly Condition[] | undefined
  readonly not?: Condition | undefined
}

const conditionKinds = ['carries', 'interactable', 'flag', 'all', 'any', 'not'] as const

/** See `Condition`. */
export const condition: z.ZodType<Condition> = z
  .lazy(() => z.strictObject(conditionFields()).superRefine(checkCondition))
  .meta({ id: 'condition', description: 'Something that holds or does not.' })

/** A condition that must be, and stay, reachable, with a title for people. */
export interface Goal extends Condition {
  readonly title?: string | undefined
}

/** See `Goal`. */
export const goal: z.ZodType<Goal> = z
  .lazy(() => z.strictObject({ title: text.optional(), ...conditionFields() }).superRefine(checkCondition))
  .meta({ id: 'goal', description: 'What must be, and stay, reachable.' })

function conditionFields() {
  return {
    carries: orSetting(name).optional().describe('This item is carried by whoever acts.'),
    count: orSetting(count).optional().describe('With carries: at least so many; 1 if left out.'),
    interactable: orSetting(name)
      .optional()
      .describe('This interactable is in the state, or one of the states, of is.'),
    flag: orSetting(name).optional().describe('This flag is set; with is: false, not set.'),
    is: z.union([name, z.boolean(), z.array(name).min(1)]).optional(),
    all: z.array(condition).min(1).optional(),
    any: z.array(condition).min(1).optional(),
    not: condition.optional(),
  }
}

function checkCondition(value: Condition, context: Context): void {
  exactlyOne(value, conditionKinds, context)
  together(value, 'count', ['carries'], context)
  together(value, 'is', ['interactable', 'flag'], context)
  if (value.interactable !== undefined && (value.is === undefined || typeof value.is === 'boolean')) {
    tell(context, ['is'], 'the name of a state')
  }
  if (value.flag !== undefined && value.is !== undefined && typeof value.is !== 'boolean') {
    tell(context, ['is'], 'true or false')
  }
}

const triggerKinds = ['enter', 'leave', 'signal', 'after'] as const

/** What sets a transition off. */
export const trigger = z
  .union([
    z.enum(['press', 'moved']),
    z
      .strictObject({
        enter: name.optional().describe('A character comes into this zone.'),
        leave: name.optional().describe('A character goes out of this zone.'),
        signal: name.optional().describe('This signal is heard.'),
        after: orSetting(seconds).optional().describe('So long after the state was entered.'),
      })
      .superRefine((value, context) => {
        exactlyOne(value, triggerKinds, context)
      }),
  ])
  .describe('press, moved, or one of enter, leave, signal, after.')

const counted = z.strictObject({ item: name, count: count.optional() })
const items = z.union([name, settingRef, z.array(counted).min(1)])
const effectKinds = ['give', 'take', 'spend', 'set', 'send'] as const

/** What a transition changes. Exactly one of `give`, `take`, `spend`, `set`, `send` is given. */
export const effect = z
  .strictObject({
    give: items.optional().describe('Whoever acts gets these items.'),
    take: items.optional().describe('Whoever acts loses these items, as far as they are carried.'),
    spend: items.optional().describe('Whoever acts uses these items up, as far as they are carried.'),
    count: orSetting(count).optional().describe('How many; 1 where it is left out.'),
    set: orSetting(name).optional().describe('This flag is set.'),
    send: orSetting(name).optional().describe('This signal is sent.'),
    to: z
      .union([z.boolean(), name, settingRef])
      .optional()
      .describe('With set: true or false. With send: the one interactable that hears it; all where it is left out.'),
  })
  .superRefine((value, context) => {
    exactlyOne(value, effectKinds, context)
    together(value, 'count', ['give', 'take', 'spend'], context)
    together(value, 'to', ['set', 'send'], context)
    if (value.set !== undefined && value.to !== undefined && typeof value.to !== 'boolean') {
      tell(context, ['to'], 'true or false')
    }
    if (value.send !== undefined && typeof value.to === 'boolean') tell(context, ['to'], 'the name of an interactable')
  })

/** What a transition changes. */
export type Effect = z.infer<typeof effect>

const channels = ['sound', 'message', 'prompt'] as const

/** One thing that a player perceives. Exactly one of `sound`, `message`, `prompt` is given. */
export const feedback = z
  .strictObject({
    sound: name.optional().describe('A sound is heard.'),
    message: text.optional().describe('A message is read; {item} and {count} stand for what a guard asks for.'),
    prompt: text.optional().describe('A prompt is shown while the interactable could be pressed.'),
  })
  .superRefine((value, context) => {
    exactlyOne(value, channels, context)
  })

/** One thing that a player perceives. */
export type Feedback = z.infer<typeof feedback>

/** The moments of an interactable that can have feedback. */
export const moments = ['noticed', 'accepted', 'refused', 'started', 'finished'] as const

/** A moment of an interactable that can have feedback. */
export type Moment = (typeof moments)[number]

/** Feedback by moment. */
export const feedbackByMoment = z.strictObject({
  noticed: z.array(feedback).optional().describe('It could now be pressed from here.'),
  accepted: z.array(feedback).optional().describe('A press, or walking into or out of a zone, was accepted.'),
  refused: z.array(feedback).optional().describe('A press was refused.'),
  started: z.array(feedback).optional().describe('A motion begins.'),
  finished: z.array(feedback).optional().describe('A motion ends.'),
})

/** What sets a transition off. */
export type Trigger = z.infer<typeof trigger>

type Context = z.core.$RefinementCtx<unknown>

/** Tells where not exactly one of some keys is given. */
export function exactlyOne(value: object, keys: readonly string[], context: Context): void {
  const given = keys.filter((key) => (value as Record<string, unknown>)[key] !== undefined)
  if (given.length !== 1) tell(context, given.length > 1 ? [given[1] ?? ''] : [], `exactly one of ${keys.join(', ')}`)
}

function together(value: object, key: string, partners: readonly string[], context: Context): void {
  const given = value as Record<string, unknown>
  if (given[key] === undefined || partners.some((partner) => given[partner] !== undefined)) return
  tell(context, [key], `${partners.join(' or ')} beside it`)
}

function tell(context: Context, path: string[], expected: string): void {
  context.addIssue({ code: 'custom', message: expected, path })
}
