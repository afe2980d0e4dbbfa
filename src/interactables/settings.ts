import {
  diagnostic,
  type Diagnostic,
  isExtra,
  join,
  type Level,
  milliseconds,
  nearestName,
  quoted,
  type Setting,
  type Source,
  type TypeDefinition,
} from '../model/index.ts'
import { typeChain } from './types.ts'

type Values = Readonly<Record<string, unknown>>

/** Whether a value is a condition: of a level that was read that is looked at, of one made in TypeScript it is taken for granted. */
export type ConditionTest = (value: unknown) => boolean

/** Tells every setting that its type does not have, or whose value has the wrong shape. */
export function settingDiagnostics(level: Level, source: Source, isCondition: ConditionTest): Diagnostic[] {
  return Object.entries(level.interactables ?? {}).flatMap(([name, instance]) => {
    const type = typeChain(level, instance.type).type
    if (!type) return []
    const path = `interactables.${name}.set`
    return [
      ...checkGroup(instance.set ?? {}, type.settings ?? {}, path, { source, isCondition }),
      ...contradictions(type, instance.set ?? {}, path, source),
    ]
  })
}

/** Settings that are given together and cannot be meant together: told once, at the first, with the place of the others. */
function contradictions(type: TypeDefinition, given: Values, path: string, source: Source): Diagnostic[] {
  return (type.contradictions ?? []).flatMap(({ settings, because }) => {
    const isGiven = (setting: string): boolean => ![undefined, false].includes(settingAt(given, setting) as undefined)
    if (!settings.every(isGiven)) return []
    const [first, ...others] = settings.map((setting) => ({ setting, place: source.keyPlace(join(path, setting)) }))
    const elsewhere = others.map(({ setting, place }) => `${setting} (line ${String(place.line ?? 0)})`).join(' and ')
    const message = `${first!.setting} contradicts ${elsewhere}: ${because}`
    return [diagnostic('contradiction', first!.place, message)]
  })
}

/** The settings of an instance with the defaults of its type filled in. */
export function settingValues(type: TypeDefinition, given: Values): Values {
  return filled(type.settings ?? {}, given)
}

/**
 * The value at a path of settings such as `lock.item`; undefined where it is not given. In a list of triggers `press` is true
 * where it is listed, and `signal` the name of the signal.
 */
export function settingAt(values: Values, path: string): unknown {
  let at: unknown = values
  for (const key of path.split('.')) {
    if (Array.isArray(at)) {
      const entry: unknown = at.find((one) => isTrigger(one, key))
      at = isMapping(entry) ? entry.signal : entry === undefined ? undefined : true
      continue
    }
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, key)) return undefined
    at = (at as Values)[key]
  }
  return at
}

/** The path of a setting as it is written in an instance: the entry of a list, where it is one of the triggers in it. */
export function writtenPath(values: Values, path: string): string {
  const [key, last] = [path.replace(/\.[^.]*$/, ''), path.split('.').at(-1)!]
  const list = path === key ? undefined : settingAt(values, key)
  const at = Array.isArray(list) ? list.findIndex((one) => isTrigger(one, last)) : -1
  return at < 0 ? path : `${key}.${String(at)}${last === 'signal' ? '.signal' : ''}`
}

function isTrigger(entry: unknown, name: string): boolean {
  return entry === name || (name === 'signal' && isMapping(entry))
}

function filled(settings: Readonly<Record<string, Setting>>, given: Values): Values {
  const values: Record<string, unknown> = {}
  for (const [key, setting] of Object.entries(settings)) {
    const value = given[key] ?? setting.default
    if (value === undefined) continue
    values[key] = setting.kind === 'group' ? filled(setting.fields ?? {}, value as Values) : value
  }
  return values
}

interface Context {
  readonly source: Source
  readonly isCondition: ConditionTest
}

function checkGroup(
  given: Values,
  settings: Readonly<Record<string, Setting>>,
  path: string,
  context: Context,
): Diagnostic[] {
  const { source } = context
  const known = Object.keys(settings)
  const unknown = Object.keys(given).filter((key) => !Object.hasOwn(settings, key) && !isExtra(key))
  const told = unknown.map((key) => {
    const nearest = nearestName(key, known)
    const expected = nearest === null ? (known.length > 0 ? `one of ${known.join(', ')}` : 'no settings') : null
    const message = `${path} has no setting ${quoted(key)}.`
    return diagnostic('unknown-key', source.keyPlace(join(path, key)), message, { nearest, expected })
  })
  const inner = Object.entries(settings).flatMap(([key, setting]) => {
    const value = given[key]
    if (value !== undefined) return checkValue(value, setting, join(path, key), context)
    if (setting.needed !== true) return []
    return [diagnostic('missing-key', source.keyPlace(path), `${path} lacks the setting ${quoted(key)}.`)]
  })
  return [...told, ...inner]
}

function checkValue(value: unknown, setting: Setting, path: string, context: Context): Diagnostic[] {
  const { source, isCondition } = context
  if (setting.kind === 'group') {
    if (isMapping(value)) return checkGroup(value, setting.fields ?? {}, path, context)
    const expected = `a mapping with ${Object.keys(setting.fields ?? {}).join(', ')}`
    return [wrong(value, expected, path, source)]
  }
  const expected =
    setting.kind === 'condition' ? (isCondition(value) ? null : 'a condition') : kinds[setting.kind](value, setting)
  if (expected === null) return []
  const nearest =
    setting.kind === 'choice' && typeof value === 'string' ? nearestName(value, setting.options ?? []) : null
  return [wrong(value, expected, path, source, nearest)]
}

function wrong(
  value: unknown,
  expected: string,
  path: string,
  source: Source,
  nearest: string | null = null,
): Diagnostic {
  const more = { expected, found: quoted(value), nearest }
  return diagnostic('wrong-shape', source.place(path), `The setting ${path} has the wrong shape.`, more)
}

/** For each kind: what was expected instead of a value, or null where it will do. */
const kinds: Readonly<
  Record<Exclude<Setting['kind'], 'group' | 'condition'>, (value: unknown, setting: Setting) => string | null>
> = {
  item: (value) => (isName(value) ? null : 'the name of an item'),
  interactable: (value) => (isName(value) ? null : 'the name of an interactable'),
  flag: (value) => (isName(value) ? null : 'the name of a flag'),
  signal: (value) => (isName(value) ? null : 'the name of a signal'),
  seconds: (value) => (isSeconds(value) ? null : 'seconds from 0.001 to 86400 with at most three decimals'),
  metres: (value) => (isBetween(value, -10_000, 10_000) ? null : 'metres'),
  degrees: (value) => (isBetween(value, -3600, 3600) ? null : 'degrees from -3600 to 3600'),
  speed: (value) => (isBetween(value, 0.001, 10_000) ? null : 'more than 0, degrees or metres a second'),
  count: (value) => (isCount(value) ? null : 'a whole number from 1 to 9999'),
  choice: (value, setting) =>
    typeof value === 'string' && setting.options?.includes(value) ? null : (setting.options ?? []).join(' or '),
  'yes-no': (value) => (typeof value === 'boolean' ? null : 'true or false'),
  text: (value) => (typeof value === 'string' && value.length <= 2000 ? null : 'a text'),
  digits: (value) => (isDigits(value) ? null : 'a list of 1 to 8 whole numbers from 0 to 99'),
  shift: (value) => (isShift(value) ? null : '[x, y, z] in metres'),
  counter: (value) => (isName(value) ? null : 'the name of a counter'),
  triggers: (value, setting) => (isTriggers(value, setting) ? null : triggersText(setting)),
  tag: (value) => (isName(value) ? null : 'a tag'),
  level: (value) => (isName(value) ? null : 'the name of a level'),
  'item-names': (value) => (Array.isArray(value) && value.length > 0 && value.every(isName) ? null : 'a list of items'),
  place: (value) => (isName(value) ? null : 'the name of a place'),
  items: (value) => (Array.isArray(value) && value.every(isCounted) ? null : 'a list of { item, count }'),
}

function isTriggers(value: unknown, { options = [] }: Setting): boolean {
  if (!Array.isArray(value)) return false
  const names = value.map((entry: unknown) => {
    if (!isMapping(entry)) return entry === 'signal' ? null : entry
    return Object.keys(entry).join() === 'signal' && isName(entry.signal) ? 'signal' : null
  })
  return (
    names.every((name) => typeof name === 'string' && options.includes(name)) && new Set(names).size === names.length
  )
}

function triggersText({ options = [] }: Setting): string {
  return `a list of ${options.map((one) => (one === 'signal' ? '{ signal: name }' : one)).join(', ')}, each once at the most`
}

function isMapping(value: unknown): value is Values {
  return typeof value === 'object' && value !== null && !Array.isArray(value)
}

function isName(value: unknown): value is string {
  return typeof value === 'string' && /^[a-z][a-z0-9-]{0,79}$/.test(value)
}

function isShift(value: unknown): boolean {
  return Array.isArray(value) && value.length === 3 && value.every((part) => isBetween(part, -100, 100))
}

function isDigits(value: unknown): boolean {
  if (!Array.isArray(value) || value.length < 1 || value.length > 8) return false
  return value.every((digit) => isBetween(digit, 0, 99) && Number.isInteger(digit))
}

function isBetween(value: unknown, least: number, most: number): value is number {
  return typeof value === 'number' && value >= least && value <= most
}

function isSeconds(value: unknown): boolean {
  return isBetween(value, 0.001, 86_400) && Math.abs(value * 1000 - milliseconds(value)) < 1e-6
}

function isCount(value: unknown): boolean {
  return isBetween(value, 1, 9999) && Number.isInteger(value)
}

function isCounted(value: unknown): boolean {
  if (!isMapping(value) || !isName(value.item)) return false
  const count = value.count
  return (count === undefined || isCount(count)) && Object.keys(value).every((key) => key === 'item' || key === 'count')
}
