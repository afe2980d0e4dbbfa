import {
  builtInTypes,
  type Expanded,
  type Listed,
  listInstances,
  type Placed,
  settledSettings,
  takes,
  typeChain,
  type TypeSheet,
  typeSheet,
} from '../interactables/index.ts'
import { nearestName, type Setting } from '../model/index.ts'
import { type AnyLevel, expandedOf } from './prepared.ts'

/** A setting of an instance, with everything that a form for it asks. */
export interface SettingNow {
  /** Its path among the settings, such as `lock.item`. */
  readonly path: string
  readonly kind: Setting['kind']
  /** What it takes, with its unit: `seconds`, `the name of an item`. */
  readonly takes: string
  readonly about: string
  /** For a choice: what can be chosen; else empty. */
  readonly options: readonly string[]
  readonly needed: boolean
  /** What the instance itself gives; undefined where it gives nothing. */
  readonly given: unknown
  /** With defaults filled in; undefined where it is not there. */
  readonly value: unknown
}

/** An interactable as a designer looks at it. */
export interface InteractableSheet {
  readonly name: string
  readonly type: string
  /** What its type is for; empty where that does not say. */
  readonly about: string
  readonly states: readonly string[]
  readonly initial: string
  /** Groups before what is in them. */
  readonly settings: readonly SettingNow[]
  /** How it stands and how it is pressed, whatever its type: paths in the instance itself, such as `range.radius`. */
  readonly standing: readonly SettingNow[]
}

/** All interactables in file order, each with what it changes from its type, and how that stands to others of its type. */
export function listInteractables(level: AnyLevel): readonly Listed[] {
  return listInstances(expandedOf(level).level)
}

/** An interactable with its settings. A name that the level does not have throws a `RangeError`. */
export function describeInteractable(level: AnyLevel, name: string): InteractableSheet {
  const expanded = expandedOf(level)
  const placed = expanded.interactables.find((one) => one.name === name)
  if (!placed) {
    const nearest = nearestName(
      name,
      expanded.interactables.map((one) => one.name),
    )
    throw new RangeError(`There is no interactable "${name}".${nearest === null ? '' : ` Did you mean "${nearest}"?`}`)
  }
  const type = expanded.level.types?.[placed.type] ?? builtInTypes[placed.type]
  return {
    name,
    type: placed.type,
    about: type?.about ?? '',
    states: placed.states.map((state) => state.name),
    initial: placed.states[placed.initial]!.name,
    settings: settledSettings(expanded.level, name).map(({ path, setting, given, value }) => ({
      path,
      kind: setting.kind,
      takes: setting.kind === 'group' ? 'a group of settings' : takes(setting),
      about: setting.about ?? '',
      options: setting.options ?? [],
      needed: setting.needed ?? false,
      given,
      value,
    })),
    standing: standingOf(expanded, placed),
  }
}

function standingOf({ level }: Expanded, placed: Placed): SettingNow[] {
  const instance = level.interactables![placed.name]!
  const range = { ...typeChain(level, placed.type).type?.range, ...instance.range }
  const one = (
    path: string,
    kind: Setting['kind'],
    what: string,
    about: string,
    given: unknown,
    value: unknown,
    options: readonly string[] = [],
  ): SettingNow => {
    return { path, kind, takes: what, about, options, needed: false, given, value }
  }
  const isFree = placed.doorway === null
  const from = range.from ?? 'handle'
  return [
    ...(isFree
      ? [one('turn', 'degrees', 'degrees', 'Which way it is turned, counter-clockwise.', instance.turn, placed.turn)]
      : []),
    one('scale', 'count', 'times', 'How many times as large as its type it is.', instance.scale, instance.scale ?? 1),
    one(
      'range.radius',
      'metres',
      'metres',
      'How near the hand must be for a press to go to it.',
      instance.range?.radius,
      range.radius ?? 1.5,
    ),
    one(
      'range.until',
      'metres',
      'metres',
      'How far off it ends again for whoever has been so near; as near as it begins where nothing is given.',
      instance.range?.until,
      range.until,
    ),
    one(
      'range.from',
      'choice',
      'a choice',
      'What that is measured from; a spot, where it was dragged to one.',
      instance.range?.from,
      typeof from === 'string' ? from : 'a spot',
      ['handle', 'centre'],
    ),
    one(
      'range.aim',
      'degrees',
      'degrees to either side',
      'How straight one must look at its handle; any way where nothing is given.',
      instance.range?.aim,
      range.aim,
    ),
    one(
      'range.sight',
      'yes-no',
      'true or false',
      'Whether walls and bodies in between keep a press from it.',
      instance.range?.sight,
      range.sight ?? true,
    ),
    one(
      'priority',
      'count',
      'a whole number',
      'Of several in range the highest answers.',
      instance.priority,
      instance.priority ?? 0,
    ),
  ]
}

/** The built-in types, and those of a level where one is given, with their settings. */
export function describeTypes(level: AnyLevel | null = null): readonly TypeSheet[] {
  const own = level === null ? {} : (expandedOf(level).level.types ?? {})
  return Object.entries({ ...builtInTypes, ...own }).map(([name, type]) => typeSheet(name, type))
}
