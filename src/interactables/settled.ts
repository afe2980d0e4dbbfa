import type { Level, Setting } from '../model/index.ts'
import { settingAt, settingValues } from './settings.ts'
import { builtInTypes, typeChain } from './types.ts'

/** One setting of a copy: what the type says of it, what the copy gives, and what it comes to. */
export interface Settled {
  /** Its path, such as `lock.item`. */
  readonly path: string
  readonly kind: Setting['kind']
  /** What the copy itself gives; undefined where it gives nothing. */
  readonly given: unknown
  /** With defaults filled in; undefined where it is not there. */
  readonly value: unknown
  /** What the type gives where a copy does not; undefined for nothing. */
  readonly usual: unknown
}

/** All settings of a copy, groups before what is in them; none where its type is not there. */
export function settledSettings(level: Level, copy: string): Settled[] {
  const { type: name, set = {} } = level.interactables?.[copy] ?? { type: '' }
  const { type } = typeChain(level, name)
  if (!type) return []
  const values = settingValues(type, set)
  const usual = settingValues(type, {})
  const all: Settled[] = []
  const collect = (settings: Readonly<Record<string, Setting>>, before: string): void => {
    for (const [key, setting] of Object.entries(settings)) {
      const path = before + key
      all.push({
        path,
        kind: setting.kind,
        given: settingAt(set, path),
        value: settingAt(values, path),
        usual: settingAt(usual, path),
      })
      if (setting.fields) collect(setting.fields, `${path}.`)
    }
  }
  collect(type.settings ?? {}, '')
  return all
}

/** Whether a type is one that a level does not define itself. */
export function isBuiltIn(level: Level, type: string): boolean {
  return !Object.hasOwn(level.types ?? {}, type) && Object.hasOwn(builtInTypes, type)
}
