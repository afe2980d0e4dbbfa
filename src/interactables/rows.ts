import {
  type Condition,
  join,
  milliseconds,
  type Role,
  type TransitionDefinition,
  type Trigger,
} from '../model/index.ts'
import type { Names } from './names.ts'
import type { PressKind, Check, Expanded, When } from './placed.ts'

/** The usual kind of press. */
export const usualPress = 'use'

/** The names that rows can refer to, in file order, and where a row's parts were written. */
export interface Scope {
  readonly names: Names
  readonly items: readonly string[]
  /** How many of each item one character can carry. */
  readonly most: readonly number[]
  readonly interactables: readonly string[]
  /** The states of each interactable, by its index. */
  readonly statesOf: (interactable: number) => readonly string[]
  readonly flags: readonly string[]
  readonly counters: readonly string[]
  readonly tags: readonly string[]
  readonly places: readonly string[]
  readonly memories: Expanded['memories']
  readonly contents: Expanded['contents']
  readonly signals: string[]
  readonly pressKinds: PressKind[]
  /** The zones of an interactable, by its index: their numbers by name. */
  readonly zonesOf: (interactable: number) => Readonly<Record<string, number>>
  /** The zones that rooms are, by name; only of those that are asked about. */
  readonly zoneOfRoom: Readonly<Record<string, number>>
  readonly characters: readonly { readonly name: string; readonly role: Role }[]
  /** The numbers of the wheels of an interactable. */
  readonly wheelsOf: (interactable: number) => readonly number[]
  /** How many numbers a wheel has, from 0 on. */
  readonly positionsOf: (wheel: number) => number
  /** Told of every zone that a condition asks about. */
  readonly asksZone: (zone: number) => void
  /** The interactable that the row belongs to; -1 for a goal. */
  readonly own: number
  /** What a problem belongs to. */
  readonly subject: string
  /** The path of a part of the row: of its own line, or of the setting that it was taken from. */
  readonly pathOf: (part: string) => string
}

/** A condition with its names looked up; one that names nothing never holds. */
export function resolveCheck(condition: Condition | undefined, scope: Scope, part: string): Check {
  if (!condition) return { kind: 'all', checks: [] }
  if (typeof condition.carries === 'string') return carries(condition, condition.carries, scope, part)
  if (typeof condition.interactable === 'string') return inState(condition, condition.interactable, scope, part)
  if (typeof condition.flag === 'string') {
    const path = scope.pathOf(join(part, 'flag'))
    const flag = scope.names.find('flag', condition.flag, scope.flags, path, scope.subject)
    return flag < 0 ? { kind: 'never', name: condition.flag } : { kind: 'flag', flag, is: condition.is !== false }
  }
  if (condition.acts !== undefined) return { kind: 'role', roles: [condition.acts].flat() }
  if (condition.remembers !== undefined) {
    const memory = memoryIndex(condition.remembers, scope, join(part, 'remembers'))
    return memory < 0 ? { kind: 'never', name: condition.remembers } : { kind: 'remembers', memory }
  }
  if (typeof condition.contains === 'string') return contains(condition, condition.contains, scope, part)
  if (condition.empty) return { kind: 'empty', contents: contentsOf(whose(condition, scope, part), scope) }
  if (condition['something-fits']) return { kind: 'fits', contents: contentsOf(whose(condition, scope, part), scope) }
  if (typeof condition['room-for'] === 'string') return roomFor(condition, condition['room-for'], scope, part)
  if (typeof condition.counter === 'string') return counted(condition, condition.counter, scope, part)
  if (condition.inside !== undefined) return inside(condition, condition.inside, scope, part)
  if (Array.isArray(condition.dial)) return dial(condition, condition.dial as number[], scope, part)
  if (condition.not) return { kind: 'not', check: resolveCheck(condition.not, scope, join(part, 'not')) }
  const kind = condition.any ? 'any' : 'all'
  const inner = condition.any ?? condition.all ?? []
  const checks = inner.map((one, i) => resolveCheck(one, scope, join(part, `${kind}.${String(i)}`)))
  return { kind, checks }
}

function carries(condition: Condition, name: string, scope: Scope, part: string): Check {
  const item = scope.names.find('item', name, scope.items, scope.pathOf(join(part, 'carries')), scope.subject)
  if (item < 0) return { kind: 'never', name }
  const count = typeof condition.count === 'number' ? condition.count : 1
  const most = scope.most[item] ?? 1
  if (count > most) {
    const path = scope.pathOf(join(part, 'count'))
    const wrong = { is: 'more-than-carried', item: name, count, most } as const
    scope.names.tell({ rule: 'bad-value', path, subject: scope.subject, wrong })
  }
  return { kind: 'carries', item, count, path: scope.pathOf(join(part, 'carries')) }
}

function inState(condition: Condition, name: string, scope: Scope, part: string): Check {
  const path = scope.pathOf(join(part, 'interactable'))
  const interactable = scope.names.find('interactable', name, scope.interactables, path, scope.subject)
  if (interactable < 0) return { kind: 'never', name }
  const wanted = typeof condition.is === 'string' ? [condition.is] : Array.isArray(condition.is) ? condition.is : []
  const states = wanted.map((state: string, i) => {
    const at = scope.pathOf(join(part, wanted.length > 1 ? `is.${String(i)}` : 'is'))
    return scope.names.find('state', state, scope.statesOf(interactable), at, scope.subject)
  })
  const known = states.filter((state) => state >= 0)
  return known.length === 0
    ? { kind: 'never', name: `${name} ${wanted.join(' or ')}` }
    : { kind: 'state', interactable, states: known }
}

function roomFor(condition: Condition, name: string, scope: Scope, part: string): Check {
  const item = scope.names.find('item', name, scope.items, scope.pathOf(join(part, 'room-for')), scope.subject)
  // There is always room for an item that nobody holds.
  if (item < 0) return { kind: 'all', checks: [] }
  return { kind: 'room', item, count: typeof condition.count === 'number' ? condition.count : 1 }
}

function counted(condition: Condition, name: string, scope: Scope, part: string): Check {
  const path = scope.pathOf(join(part, 'counter'))
  const counter = scope.names.find('counter', name, scope.counters, path, scope.subject)
  if (counter < 0) return { kind: 'never', name }
  const { is, 'at-least': least, 'at-most': most } = condition
  if (typeof is === 'number') return { kind: 'counter', counter, least: is, most: is }
  return {
    kind: 'counter',
    counter,
    least: typeof least === 'number' ? least : 0,
    most: typeof most === 'number' ? most : Infinity,
  }
}

/** The interactable that `of` names; the row's own where it names none. -1 where there is none. */
function whose(condition: Condition, scope: Scope, part: string): number {
  if (typeof condition.of !== 'string') return scope.own
  const path = scope.pathOf(join(part, 'of'))
  return scope.names.find('interactable', condition.of, scope.interactables, path, scope.subject)
}

function inside(condition: Condition, name: string, scope: Scope, part: string): Check {
  const zone = zoneNamed(condition, name, scope, part)
  if (zone < 0) return { kind: 'never', name }
  scope.asksZone(zone)
  const who = whoIsMeant(condition, scope, part)
  if (who?.length === 0) return { kind: 'never', name: condition.character ?? [condition.role].flat().join(' or ') }
  if (typeof condition.carrying !== 'string') return { kind: 'inside', zone, item: -1, who }
  const path = scope.pathOf(join(part, 'carrying'))
  const item = scope.names.find('item', condition.carrying, scope.items, path, scope.subject)
  return item < 0 ? { kind: 'never', name: condition.carrying } : { kind: 'inside', zone, item, who }
}

/** The zone that a condition asks about: one of an interactable, or a room; -1 where there is none. */
function zoneNamed(condition: Condition, name: string, scope: Scope, part: string): number {
  const owner = whose(condition, scope, part)
  const zones = owner < 0 ? {} : scope.zonesOf(owner)
  if (condition.of === undefined && zones[name] === undefined && scope.zoneOfRoom[name] !== undefined) {
    return scope.zoneOfRoom[name]
  }
  const names = Object.keys(zones)
  const found = scope.names.find('zone', name, names, scope.pathOf(join(part, 'inside')), scope.subject)
  return found < 0 ? -1 : (zones[names[found] ?? ''] ?? -1)
}

/** The characters that a condition is about, by index; null: all. */
function whoIsMeant({ role, character }: Condition, scope: Scope, part: string): readonly number[] | null {
  if (role === undefined && character === undefined) return null
  const roles = role === undefined ? null : [role].flat()
  const all = scope.characters.map(({ name }) => name)
  const only =
    character === undefined
      ? null
      : scope.names.find('character', character, all, scope.pathOf(join(part, 'character')), scope.subject)
  return scope.characters.flatMap((one, index) =>
    (roles === null || roles.includes(one.role)) && (only === null || only === index) ? [index] : [],
  )
}

function contains(condition: Condition, name: string, scope: Scope, part: string): Check {
  const item = scope.names.find('item', name, scope.items, scope.pathOf(join(part, 'contains')), scope.subject)
  const owner = whose(condition, scope, part)
  const content = contentsOf(owner, scope).find((index) => scope.contents[index]!.item === item)
  const count = typeof condition.count === 'number' ? condition.count : 1
  return content === undefined ? { kind: 'never', name } : { kind: 'contains', content, count }
}

/** What is in an interactable: indices into `Expanded.contents`. */
export function contentsOf(owner: number, { contents }: Scope): number[] {
  return contents.flatMap(({ interactable }, index) => (interactable === owner ? [index] : []))
}

/** What an interactable remembers under a name; -1, and told, where there is no such thing. */
export function memoryIndex(name: string, scope: Scope, part: string): number {
  const own = scope.memories.flatMap((memory, index) =>
    memory.interactable === scope.own ? [{ name: memory.name, index }] : [],
  )
  const names = own.map((memory) => memory.name)
  return own[scope.names.find('memory', name, names, scope.pathOf(part), scope.subject)]?.index ?? -1
}

function dial(condition: Condition, digits: readonly number[], scope: Scope, part: string): Check {
  const owner = whose(condition, scope, part)
  const wheels = owner < 0 ? [] : scope.wheelsOf(owner)
  if (wheels.length !== digits.length) {
    const path = scope.pathOf(join(part, 'dial'))
    const wrong = { is: 'wheels', asked: digits.length, there: wheels.length } as const
    scope.names.tell({ rule: 'bad-value', path, subject: scope.subject, wrong })
    return { kind: 'never', name: `dial at ${digits.join(' ')}` }
  }
  const tooFar = digits.findIndex((digit, i) => digit >= scope.positionsOf(wheels[i]!))
  if (tooFar >= 0) {
    const path = `${scope.pathOf(join(part, 'dial'))}.${String(tooFar)}`
    const wrong = { is: 'dial-too-far', number: digits[tooFar]!, last: scope.positionsOf(wheels[tooFar]!) - 1 } as const
    scope.names.tell({ rule: 'bad-value', path, subject: scope.subject, wrong })
    return { kind: 'never', name: `dial at ${digits.join(' ')}` }
  }
  return { kind: 'dial', wheel: wheels[0] ?? 0, digits }
}

/** A trigger with its names looked up; null where its zone is not there. */
export function resolveTrigger(trigger: Trigger, zones: Readonly<Record<string, number>>, scope: Scope): When | null {
  if (trigger === 'press') return { kind: 'press', pressKind: 0, every: 0, offered: null }
  if (trigger === 'touch') return zones.touch === undefined ? null : { kind: 'enter', zone: zones.touch }
  if (typeof trigger === 'string') return { kind: trigger }
  if (trigger.press !== undefined) {
    const every = typeof trigger.every === 'number' ? milliseconds(trigger.every) : 0
    return {
      kind: 'press',
      pressKind: pressKindIndex({ press: trigger.press, option: null, chance: null }, scope),
      every,
      offered: null,
    }
  }
  if (typeof trigger.chance === 'string') {
    const kind = { press: usualPress, option: null, chance: trigger.chance }
    return { kind: 'press', pressKind: pressKindIndex(kind, scope), every: 0, offered: null }
  }
  if (trigger.option !== undefined) {
    const offered = trigger.offered ? resolveCheck(trigger.offered, scope, 'trigger.offered') : null
    return {
      kind: 'press',
      pressKind: pressKindIndex({ press: 'option', option: trigger.option, chance: null }, scope),
      every: 0,
      offered,
    }
  }
  if (typeof trigger.hold === 'number') return { kind: 'hold', hold: milliseconds(trigger.hold) }
  if (trigger.becomes !== undefined) {
    return { kind: 'becomes', check: resolveCheck(trigger.becomes, scope, 'trigger.becomes') }
  }
  if (typeof trigger.signal === 'string') {
    const path = scope.pathOf('trigger.signal')
    return { kind: 'signal', signal: signalIndex(trigger.signal, path, scope), path }
  }
  if (typeof trigger.after === 'number') return { kind: 'after', after: milliseconds(trigger.after) }
  const kind = trigger.enter === undefined ? 'leave' : 'enter'
  const name = trigger.enter ?? trigger.leave ?? ''
  const names = Object.keys(zones)
  const found = scope.names.find('zone', name, names, scope.pathOf(`trigger.${kind}`), scope.subject)
  return found < 0 ? null : { kind, zone: zones[names[found] ?? ''] ?? 0 }
}

/** The zone that a trigger asks about, if any. */
export function zoneAsked(row: TransitionDefinition): string | null {
  if (row.trigger === 'touch') return 'touch'
  return typeof row.trigger === 'string' ? null : (row.trigger.enter ?? row.trigger.leave ?? null)
}

/** A counter by its name; -1, and told, where there is none. */
export function counterIndex(name: string, scope: Scope, part: string): number {
  return scope.names.find('counter', name, scope.counters, scope.pathOf(part), scope.subject)
}

function pressKindIndex(wanted: PressKind, { pressKinds }: Scope): number {
  const index = pressKinds.findIndex(
    ({ press, option, chance }) => press === wanted.press && option === wanted.option && chance === wanted.chance,
  )
  return index >= 0 ? index : pressKinds.push(wanted) - 1
}

/** A signal by its name; one that was not named before is a new one. */
export function signalIndex(said: string, path: string, { names, signals }: Scope): number {
  const name = names.granted(path, said)
  const index = signals.indexOf(name)
  return index >= 0 ? index : signals.push(name) - 1
}
