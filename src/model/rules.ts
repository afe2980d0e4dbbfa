import * as z from 'zod'
import {
  count,
  digits,
  name,
  number,
  orSetting,
  provided,
  rolesOf,
  seconds,
  settingPath,
  settingRef,
  text,
} from './parts.ts'
import type { Role } from './vocabulary.ts'

/** Stands for the value of a setting. */
export type SettingRef = z.infer<typeof settingRef>

/**
 * Something that holds or does not. Exactly one of `carries`, `room-for`, `acts`, `remembers`, `interactable`, `flag`,
 * `counter`, `inside`, `dial`, `contains`, `empty`, `something-fits`, `all`, `any`, `not`, `setting` is given. Those about
 * carrying, room, roles and what is remembered ask the character that acts;
 * for a timer and the end of a motion that is the character that set the interactable off last, at first the first player. A goal, and a
 * condition that is waited for, hold where they hold for any player.
 */
export interface Condition {
  readonly carries?: string | SettingRef | undefined
  /** With `carries`: at least so many; 1 where it is left out. */
  readonly count?: number | SettingRef | undefined
  readonly interactable?: string | SettingRef | undefined
  /** This many more of an item could be carried (`count`; 1 where it is left out). */
  readonly 'room-for'?: string | SettingRef | undefined
  /** The character that acts has this role, or one of these. */
  readonly acts?: Role | readonly Role[] | undefined
  /** The interactable remembers this of the character that acts. */
  readonly remembers?: string | undefined
  /** So many of this item are still in the interactable, or in the one that `of` names (`count`; 1 where it is left out). */
  readonly contains?: string | SettingRef | undefined
  /** Nothing is left in it. */
  readonly empty?: true | undefined
  /** Something is left in it that the character that acts has room for. */
  readonly 'something-fits'?: true | undefined
  readonly flag?: string | SettingRef | undefined
  readonly counter?: string | SettingRef | undefined
  /**
   * With `interactable`: its state, or several of which one will do. With `flag`: true (also where left out) or false.
   * With `counter`: its number.
   */
  readonly is?: string | boolean | number | readonly string[] | undefined
  readonly 'at-least'?: number | SettingRef | undefined
  readonly 'at-most'?: number | SettingRef | undefined
  /** Somebody is in this zone; or, where `of` names nothing and there is no such zone, in this room. */
  readonly inside?: string | undefined
  /** With `inside`: somebody in it who carries this item. */
  readonly carrying?: string | SettingRef | undefined
  /** With `inside`: somebody of this role, or of one of these. */
  readonly role?: Role | readonly Role[] | undefined
  /** With `inside`: this character. */
  readonly character?: string | undefined
  /** The wheels of the dial stand so. */
  readonly dial?: readonly number[] | SettingRef | undefined
  /** With `inside`, `dial`, `contains` and `empty`: whose; one's own where it is left out. */
  readonly of?: string | SettingRef | undefined
  readonly all?: readonly Condition[] | undefined
  readonly any?: readonly Condition[] | undefined
  readonly not?: Condition | undefined
  /** In a type: the condition that a setting gives; it holds where the setting is not given. */
  readonly setting?: string | undefined
}

const conditionKinds = [
  'carries',
  'room-for',
  'acts',
  'remembers',
  'contains',
  'empty',
  'something-fits',
  'interactable',
  'flag',
  'counter',
  'inside',
  'dial',
  'all',
  'any',
  'not',
  'setting',
] as const

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

/** What is required of every play: what must never, or always, be so; what must stay within reach; what must follow in time. */
export const requirement = z
  .lazy(() =>
    z
      .strictObject({
        title: text.optional(),
        never: condition.optional().describe('This must never be so.'),
        before: condition.optional().describe('With never: only until this has been so.'),
        always: condition.optional().describe('This must always be so, from the start on.'),
        'can-still': condition
          .optional()
          .describe('Whatever has been done so far, players can still bring this about, again and again.'),
        against: z
          .enum(['companion', 'creature'])
          .optional()
          .describe('With can-still: whatever characters of this role do meanwhile, players can bring it about.'),
        when: condition.optional().describe('With then and within: once this has come to be so,'),
        then: condition.optional().describe('with when and within: this must come to be so, or be so already,'),
        within: seconds
          .optional()
          .describe('with when and then: after so many seconds at the latest, whatever players do or leave undone.'),
      })
      .superRefine((value, context) => {
        exactlyOne(value, ['never', 'always', 'can-still', 'when'], context)
        together(value, 'before', ['never'], context)
        together(value, 'against', ['can-still'], context)
        for (const key of ['then', 'within']) together(value, key, ['when'], context)
        for (const key of ['then', 'within'] as const) {
          if (value.when !== undefined && value[key] === undefined) tell(context, [], `${key} beside when`)
        }
      }),
  )
  .meta({ id: 'requirement', description: 'What is required of every play.' })

/** What is required of every play. */
export type Requirement = z.infer<typeof requirement>

function conditionFields() {
  return {
    carries: orSetting(name).optional().describe('This item is carried by the character that acts.'),
    count: orSetting(count)
      .optional()
      .describe('With carries and contains: at least so many; with room-for: so many; 1 if left out.'),
    'room-for': orSetting(name).optional().describe('The character that acts could carry more of this item.'),
    acts: rolesOf.optional().describe('The character that acts has this role.'),
    remembers: name.optional().describe('The interactable remembers this of the character that acts.'),
    contains: orSetting(name).optional().describe('This item is still in it, or in the one that of names.'),
    empty: z.literal(true).optional().describe('Nothing is left in it, or in the one that of names.'),
    'something-fits': z
      .literal(true)
      .optional()
      .describe('Something is left in it that the character that acts has room for.'),
    interactable: orSetting(name)
      .optional()
      .describe('This interactable is in the state, or one of the states, of is.'),
    flag: orSetting(name).optional().describe('This flag is set; with is: false, not set.'),
    counter: orSetting(name).optional().describe('This counter stands as is, at-least or at-most say.'),
    is: z.union([name, z.boolean(), number, z.array(name).min(1)]).optional(),
    'at-least': orSetting(number).optional(),
    'at-most': orSetting(number).optional(),
    inside: name
      .optional()
      .describe('Somebody is in this zone, of this interactable or of the one that of names; or in this room.'),
    carrying: orSetting(name).optional().describe('With inside: somebody in it who carries this item.'),
    role: rolesOf.optional().describe('With inside: somebody of this role.'),
    character: name.optional().describe('With inside: this character.'),
    dial: orSetting(digits).optional().describe('The wheels of its dial, or of the one that of names, stand so.'),
    of: orSetting(name).optional().describe('With inside, dial, contains and empty: the interactable whose it is.'),
    all: z.array(condition).min(1).optional(),
    any: z.array(condition).min(1).optional(),
    not: condition.optional(),
    setting: settingPath.optional().describe('In a type: the condition that this setting gives.'),
  }
}

function checkCondition(value: Condition, context: Context): void {
  exactlyOne(value, conditionKinds, context)
  together(value, 'count', ['carries', 'room-for', 'contains'], context)
  together(value, 'is', ['interactable', 'flag', 'counter'], context)
  together(value, 'at-least', ['counter'], context)
  together(value, 'at-most', ['counter'], context)
  for (const key of ['carrying', 'role', 'character']) together(value, key, ['inside'], context)
  together(value, 'of', ['inside', 'dial', 'contains', 'empty', 'something-fits'], context)
  if (value.counter !== undefined) checkCounter(value, context)
  if (value.interactable !== undefined && !isStateName(value.is)) {
    tell(context, ['is'], 'the name of a state')
  }
  if (value.flag !== undefined && value.is !== undefined && typeof value.is !== 'boolean') {
    tell(context, ['is'], 'true or false')
  }
}

function isStateName(is: Condition['is']): boolean {
  return typeof is === 'string' || Array.isArray(is)
}

function checkCounter(value: Condition, context: Context): void {
  const asks = (['is', 'at-least', 'at-most'] as const).filter((key) => value[key] !== undefined)
  if (asks.length === 0) tell(context, [], 'is, at-least or at-most beside counter')
  if (value.is !== undefined && typeof value.is !== 'number') tell(context, ['is'], 'a number')
}

const triggerKinds = ['enter', 'leave', 'signal', 'after', 'press', 'chance', 'option', 'hold', 'becomes'] as const

/** What sets a transition off. */
export const trigger = z
  .union([
    z.enum(['press', 'release', 'touch', 'motion-end']),
    z
      .strictObject({
        enter: name.optional().describe('A character comes into this zone.'),
        leave: name.optional().describe('A character goes out of this zone.'),
        signal: orSetting(name).optional().describe('This signal is heard.'),
        after: orSetting(seconds).optional().describe('So long after the state was entered.'),
        press: name.optional().describe('A press of this kind, for a second thing that one can do; use is the usual.'),
        every: orSetting(seconds).optional().describe('With press: kept down, it is pressed again so often.'),
        chance: orSetting(name)
          .optional()
          .describe('A usual press, if chance draws this: of all transitions by chance from its state, one is drawn.'),
        option: text.max(80).optional().describe('This option of its prompt is chosen.'),
        offered: condition.optional().describe('With option: it is on the prompt only while this holds.'),
        hold: orSetting(seconds).optional().describe('The press has been kept down for so long.'),
        becomes: condition.optional().describe('This becomes true.'),
      })
      .superRefine((value, context) => {
        exactlyOne(value, triggerKinds, context)
        together(value, 'every', ['press'], context)
        together(value, 'offered', ['option'], context)
      }),
  ])
  .describe(
    'press, release, touch, motion-end, or one of enter, leave, signal, after, press, chance, option, hold, becomes.',
  )

const counted = z.strictObject({ item: name, count: count.optional() })
/** An item, the setting that names it or lists some, or a list of items. */
export const items = z.union([name, settingRef, z.array(counted).min(1)])
const effectKinds = [
  'give',
  'remove',
  'consume',
  'take-out',
  'put-in',
  'set',
  'add',
  'send',
  'remember',
  'forget',
  'move-to',
  'checkpoint',
  'back-to-checkpoint',
  'exit-to',
] as const

/** What a transition changes. Exactly one of `give` to `exit-to` is given. */
export const effect = z
  .strictObject({
    give: items.optional().describe('The character that acts gets these items.'),
    remove: items.optional().describe('The character that acts loses these items, as far as they are carried.'),
    consume: items.optional().describe('The character that acts uses these items up, as far as they are carried.'),
    count: orSetting(count).optional().describe('How many; 1 where it is left out.'),
    'take-out': z
      .union([z.literal(true), items])
      .optional()
      .describe('The character that acts gets what is in it, as far as there is room: all of it, or these items.'),
    'put-in': items.optional().describe('It contains these items from now on, of those that contains names.'),
    remember: name.optional().describe('The interactable remembers this of the character that acts.'),
    forget: name.optional().describe('It remembers this of the character that acts no more.'),
    'move-to': orSetting(name).optional().describe('The character that acts is moved to this place.'),
    checkpoint: orSetting(name)
      .optional()
      .describe('This place is the last checkpoint of the character that acts from now on.'),
    'back-to-checkpoint': orSetting(name)
      .optional()
      .describe('The character that acts is moved to its last checkpoint; to this place where it has passed none.'),
    'exit-to': z
      .strictObject({
        level: orSetting(name).describe('The level, by its name in the project.'),
        place: orSetting(name).describe('The place in that level.'),
        drops: z.union([z.literal('everything'), settingRef, z.array(name).min(1)]).optional(),
      })
      .optional()
      .describe(
        'The character that acts goes to a place in another level, with what is carried but for what it drops.',
      ),
    set: orSetting(name).optional().describe('This flag is set; with to: a number, this counter.'),
    add: orSetting(name).optional().describe('This counter goes up, or down, by so many.'),
    by: orSetting(z.int().min(-9999).max(9999)).optional().describe('With add: how many; 1 where it is left out.'),
    send: orSetting(name).optional().describe('This signal is sent.'),
    to: z
      .union([z.boolean(), number, name, settingRef])
      .optional()
      .describe('With set: true, false, or a number. With send: the one interactable that hears it; all if left out.'),
    if: provided.optional(),
    tagged: orSetting(name).optional().describe('With send: only interactables with this tag hear it.'),
  })
  .superRefine((value, context) => {
    exactlyOne(value, effectKinds, context)
    together(value, 'count', ['give', 'remove', 'consume', 'take-out', 'put-in'], context)
    together(value, 'to', ['set', 'send'], context)
    together(value, 'by', ['add'], context)
    together(value, 'tagged', ['send'], context)
    if (value.set !== undefined && typeof value.to === 'string') tell(context, ['to'], 'true, false, or a number')
    if (value.send !== undefined && (typeof value.to === 'boolean' || typeof value.to === 'number')) {
      tell(context, ['to'], 'the name of an interactable')
    }
    if (value.to !== undefined && value.tagged !== undefined) tell(context, ['tagged'], 'not beside to')
  })

/** What a transition changes. */
export type Effect = z.infer<typeof effect>

/** What sets a transition off. */
export type Trigger = z.infer<typeof trigger>

/** What a refinement is told through. */
export type Context = z.core.$RefinementCtx<unknown>

/** Tells where not exactly one of some keys is given. */
export function exactlyOne(value: object, keys: readonly string[], context: Context): void {
  const given = keys.filter((key) => (value as Record<string, unknown>)[key] !== undefined)
  if (given.length !== 1) tell(context, given.length > 1 ? [given[1] ?? ''] : [], `exactly one of ${keys.join(', ')}`)
}

/** Tells where a key is given without one of those that it belongs to. */
export function together(value: object, key: string, partners: readonly string[], context: Context): void {
  const given = value as Record<string, unknown>
  if (given[key] === undefined || partners.some((partner) => given[partner] !== undefined)) return
  tell(context, [key], `${partners.join(' or ')} beside it`)
}

/** Tells what was expected at a path. */
export function tell(context: Context, path: string[], expected: string): void {
  context.addIssue({ code: 'custom', message: expected, path })
}
