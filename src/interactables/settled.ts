import type { Level, Setting, TypeDefinition } from '../model/index.ts'
import { settingValues } from './settings.ts'
import { builtInTypes, typeChain } from './types.ts'

/** One setting of an instance: what the type says of it, what the instance gives, and what it comes to. */
export interface Settled {
  /** Its path, such as `lock.item`. */
  readonly path: string
  readonly kind: Setting['kind']
  /** What the type says of it. */
  readonly setting: Setting
  /** What the instance itself gives; undefined where it gives nothing. */
  readonly given: unknown
  /** With defaults filled in; undefined where it is not there. */
  readonly value: unknown
  /** What the type gives where an instance does not; undefined for nothing. */
  readonly usual: unknown
}

/** All settings of an instance, groups before what is in them; none where its type is not there. */
export function settledSettings(level: Level, instance: string): Settled[] {
  return settling(level)(instance)
}

/** The same for one instance after another: what there is to say of a type is found out once. */
export function settling(level: Level): (instance: string) => Settled[] {
  const known = new Map<string, { readonly type: TypeDefinition; readonly usual: Values } | null>()
  return (instance) => {
    const { type: name, set = {} } = level.interactables?.[instance] ?? { type: '' }
    if (!known.has(name)) {
      const { type } = typeChain(level, name)
      known.set(name, type ? { type, usual: settingValues(type, {}) } : null)
    }
    const of = known.get(name)
    return of ? settledIn(of.type, of.usual, set) : []
  }
}

type Values = Readonly<Record<string, unknown>>

function settledIn(type: TypeDefinition, usual: Values, set: Values): Settled[] {
  const values = settingValues(type, set)
  const all: Settled[] = []
  const collect = (settings: Readonly<Record<string, Setting>>, before: string, own: Layers): void => {
    for (const [key, setting] of Object.entries(settings)) {
      const path = before + key
      const [given, value, usually] = own.map((layer) => within(layer, key))
      all.push({ path, kind: setting.kind, setting, given, value, usual: usually })
      if (setting.fields) collect(setting.fields, `${path}.`, [given, value, usually])
    }
  }
  collect(type.settings ?? {}, '', [set, values, usual])
  return all
}

/** What an instance gives, what it comes to, and what the type gives. */
type Layers = readonly [unknown, unknown, unknown]

function within(layer: unknown, key: string): unknown {
  return typeof layer === 'object' && layer !== null ? (layer as Values)[key] : undefined
}

/** Whether a type is one that a level does not define itself. */
export function isBuiltIn(level: Level, type: string): boolean {
  return !Object.hasOwn(level.types ?? {}, type) && Object.hasOwn(builtInTypes, type)
}
