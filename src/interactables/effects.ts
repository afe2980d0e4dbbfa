import { type Effect, join } from '../model/index.ts'
import type { Change } from './placed.ts'
import { contentsOf, counterIndex, memoryIndex, type Scope, signalIndex } from './rows.ts'

/** The effects of a row, one by one, each with its place in the row; those that name nothing do nothing. */
export function resolveEffects(effects: readonly { effect: Effect; at: number }[], scope: Scope): Change[] {
  return effects.flatMap(({ effect, at }) => resolveEffect(effect, scope, `effects.${String(at)}`))
}

function resolveEffect(effect: Effect, scope: Scope, part: string): Change[] {
  if (typeof effect.add === 'string') {
    const counter = counterIndex(effect.add, scope, join(part, 'add'))
    const by = typeof effect.by === 'number' ? effect.by : 1
    return counter < 0 ? [] : [{ kind: 'count', counter, to: null, by }]
  }
  if (typeof effect.set === 'string' && typeof effect.to === 'number') {
    const counter = counterIndex(effect.set, scope, join(part, 'set'))
    return counter < 0 ? [] : [{ kind: 'count', counter, to: effect.to, by: 0 }]
  }
  if (typeof effect.set === 'string') {
    const flag = scope.names.find('flag', effect.set, scope.flags, scope.pathOf(join(part, 'set')), scope.subject)
    return flag < 0 ? [] : [{ kind: 'set', flag, to: effect.to !== false }]
  }
  if (typeof effect.send === 'string') return send(effect, effect.send, scope, part)
  if (typeof effect['move-to'] === 'string') {
    const place = placeIndex(effect['move-to'], scope, join(part, 'move-to'))
    return place < 0 ? [] : [{ kind: 'move-to', place }]
  }
  if (typeof effect.checkpoint === 'string') return passCheckpoint(effect.checkpoint, scope, join(part, 'checkpoint'))
  if (typeof effect['back-to-checkpoint'] === 'string') {
    const place = placeIndex(effect['back-to-checkpoint'], scope, join(part, 'back-to-checkpoint'))
    return place < 0 ? [] : [{ kind: 'move-to', place, checkpoints: checkpointsIn(scope) }]
  }
  if (effect['exit-to']) return exitTo(effect['exit-to'], scope, join(part, 'exit-to'))
  const memory = effect.remember ?? effect.forget
  if (memory !== undefined) {
    const index = memoryIndex(memory, scope, join(part, effect.remember === undefined ? 'forget' : 'remember'))
    return index < 0 ? [] : [{ kind: 'remember', memory: index, to: effect.remember !== undefined }]
  }
  if (effect['take-out'] !== undefined) return takeOut(effect, scope, part)
  if (effect['put-in'] !== undefined) return inIt('put-in', effect, scope, part)
  return (['give', 'remove', 'consume'] as const).flatMap((kind) => {
    const what = effect[kind]
    if (what === undefined) return []
    return listed(what, effect.count).flatMap(({ name, count }, i) => {
      const path = scope.pathOf(join(part, Array.isArray(what) ? `${kind}.${String(i)}.item` : kind))
      const item = scope.names.find('item', name, scope.items, path, scope.subject)
      return item < 0 ? [] : [{ kind, item, count }]
    })
  })
}

function placeIndex(name: string, scope: Scope, part: string): number {
  return scope.names.find('place', name, scope.places, scope.pathOf(part), scope.subject)
}

/** The memories that stand for checkpoints, with their places; of a character only one at a time is remembered. */
function checkpointsIn({ memories, places }: Scope): { readonly memory: number; readonly place: number }[] {
  return memories.flatMap(({ checkpoint }, memory) => {
    const place = checkpoint === undefined ? -1 : places.indexOf(checkpoint)
    return place < 0 ? [] : [{ memory, place }]
  })
}

/** From now on this checkpoint is remembered of the character, and no other. */
function passCheckpoint(name: string, scope: Scope, part: string): Change[] {
  const place = placeIndex(name, scope, part)
  if (place < 0) return []
  const all = checkpointsIn(scope).map((one) => ({ ...one, to: one.place === place }))
  return all.map(({ memory, to }) => ({ kind: 'remember', memory, to }))
}

function exitTo({ level, place, drops }: NonNullable<Effect['exit-to']>, scope: Scope, part: string): Change[] {
  if (typeof level !== 'string' || typeof place !== 'string') return []
  const paths = { level: scope.pathOf(join(part, 'level')), place: scope.pathOf(join(part, 'place')) }
  if (drops === 'everything') return [{ kind: 'exit-to', level, place, drops: null, paths }]
  const items = (Array.isArray(drops) ? drops : []).flatMap((name: string, i) => {
    const item = scope.names.find(
      'item',
      name,
      scope.items,
      scope.pathOf(join(part, `drops.${String(i)}`)),
      scope.subject,
    )
    return item < 0 ? [] : [item]
  })
  return [{ kind: 'exit-to', level, place, drops: items, paths }]
}

function takeOut(effect: Effect, scope: Scope, part: string): Change[] {
  const own = contentsOf(scope.own, scope)
  const what = effect['take-out']
  if (what === true) {
    return own.map((content) => ({ kind: 'take-out', content, count: scope.contents[content]!.count }))
  }
  return inIt('take-out', effect, scope, part)
}

/** Some of what can be in it, put in or taken out. */
function inIt(kind: 'take-out' | 'put-in', effect: Effect, scope: Scope, part: string): Change[] {
  const what = effect[kind]
  return listed(what, effect.count).flatMap(({ name, count }, i) => {
    const path = scope.pathOf(join(part, Array.isArray(what) ? `${kind}.${String(i)}.item` : kind))
    const item = scope.names.find('item', name, scope.items, path, scope.subject)
    const content = contentsOf(scope.own, scope).find((index) => scope.contents[index]!.item === item)
    return content === undefined ? [] : [{ kind, content, count }]
  })
}

/** The items of a list, or the one item that is named, each with its count. */
export function listed(what: unknown, count: unknown): { name: string; count: number }[] {
  if (typeof what === 'string') return [{ name: what, count: typeof count === 'number' ? count : 1 }]
  if (!Array.isArray(what)) return []
  return (what as { item: string; count?: number }[]).map((one) => ({ name: one.item, count: one.count ?? 1 }))
}

function send(effect: Effect, name: string, scope: Scope, part: string): Change[] {
  const path = scope.pathOf(join(part, 'send'))
  const signal = signalIndex(name, path, scope)
  if (typeof effect.tagged === 'string') {
    const tag = scope.names.find('tag', effect.tagged, scope.tags, scope.pathOf(join(part, 'tagged')), scope.subject)
    return tag < 0 ? [] : [{ kind: 'send', signal, interactable: null, tag, path }]
  }
  if (typeof effect.to !== 'string') return [{ kind: 'send', signal, interactable: null, tag: null, path }]
  const to = scope.pathOf(join(part, 'to'))
  const interactable = scope.names.find('interactable', effect.to, scope.interactables, to, scope.subject)
  return interactable < 0 ? [] : [{ kind: 'send', signal, interactable, tag: null, path }]
}
