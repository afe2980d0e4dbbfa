import {
  type Condition,
  type Effect,
  join,
  milliseconds,
  type TransitionDefinition,
  type Trigger,
} from '../model/index.ts'
import type { Names } from './names.ts'
import type { Change, Check, When } from './placed.ts'

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
  readonly signals: string[]
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
  return { kind: 'carries', item, count }
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
  return known.length === 0 ? { kind: 'never', name } : { kind: 'state', interactable, states: known }
}

/** A trigger with its names looked up; null where its zone is not there. */
export function resolveTrigger(trigger: Trigger, zones: Readonly<Record<string, number>>, scope: Scope): When | null {
  if (typeof trigger === 'string') return { kind: trigger }
  if (trigger.signal !== undefined) return { kind: 'signal', signal: signalIndex(trigger.signal, scope) }
  if (typeof trigger.after === 'number') return { kind: 'after', after: milliseconds(trigger.after) }
  const kind = trigger.enter === undefined ? 'leave' : 'enter'
  const name = trigger.enter ?? trigger.leave ?? ''
  const names = Object.keys(zones)
  const found = scope.names.find('zone', name, names, scope.pathOf(`trigger.${kind}`), scope.subject)
  return found < 0 ? null : { kind, zone: zones[names[found] ?? ''] ?? 0 }
}

/** The zone that a trigger asks about, if any. */
export function zoneAsked(row: TransitionDefinition): string | null {
  return typeof row.trigger === 'string' ? null : (row.trigger.enter ?? row.trigger.leave ?? null)
}

/** The effects of a row, one by one; those that name nothing do nothing. */
export function resolveEffects(effects: readonly Effect[], scope: Scope): Change[] {
  return effects.flatMap((effect, i) => resolveEffect(effect, scope, `effects.${String(i)}`))
}

function resolveEffect(effect: Effect, scope: Scope, part: string): Change[] {
  if (typeof effect.set === 'string') {
    const flag = scope.names.find('flag', effect.set, scope.flags, scope.pathOf(join(part, 'set')), scope.subject)
    return flag < 0 ? [] : [{ kind: 'set', flag, to: effect.to !== false }]
  }
  if (typeof effect.send === 'string') return send(effect, effect.send, scope, part)
  return (['give', 'take', 'spend'] as const).flatMap((kind) => {
    const what = effect[kind]
    if (what === undefined) return []
    return counted(what, effect.count).flatMap(({ name, count }, i) => {
      const path = scope.pathOf(join(part, Array.isArray(what) ? `${kind}.${String(i)}.item` : kind))
      const item = scope.names.find('item', name, scope.items, path, scope.subject)
      return item < 0 ? [] : [{ kind, item, count }]
    })
  })
}

function counted(what: unknown, count: unknown): { name: string; count: number }[] {
  if (typeof what === 'string') return [{ name: what, count: typeof count === 'number' ? count : 1 }]
  if (!Array.isArray(what)) return []
  return (what as { item: string; count?: number }[]).map((one) => ({ name: one.item, count: one.count ?? 1 }))
}

function send(effect: Effect, name: string, scope: Scope, part: string): Change[] {
  const signal = signalIndex(name, scope)
  if (typeof effect.to !== 'string') return [{ kind: 'send', signal, interactable: null }]
  const path = scope.pathOf(join(part, 'to'))
  const interactable = scope.names.find('interactable', effect.to, scope.interactables, path, scope.subject)
  return interactable < 0 ? [] : [{ kind: 'send', signal, interactable }]
}

function signalIndex(name: string, scope: Scope): number {
  const index = scope.signals.indexOf(name)
  return index >= 0 ? index : scope.signals.push(name) - 1
}
