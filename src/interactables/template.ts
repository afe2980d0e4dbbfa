import type { Provided } from '../model/index.ts'
import { settingAt } from './settings.ts'

type Values = Readonly<Record<string, unknown>>

const absent = Symbol('a setting that is not given')

/**
 * A part of a type with the values of settings in place of `{ setting: path }`. A part that asks for a setting that is
 * not given is left out, whole; undefined where that is the part itself. Adds the paths that were asked to `asked`.
 */
export function filledIn<T>(part: T, values: Values, asked: string[]): T | undefined {
  const filled = fill(part, values, asked)
  // The same shape as before: only settings were put in, and they were checked against their kinds.
  return filled === absent ? undefined : (filled as T)
}

function fill(part: unknown, values: Values, asked: string[]): unknown {
  if (Array.isArray(part)) return part.map((entry) => fill(entry, values, asked)).filter((entry) => entry !== absent)
  if (typeof part !== 'object' || part === null) return part
  const { setting, or } = part as { setting?: unknown; or?: unknown }
  if (typeof setting === 'string' && Object.keys(part).length === (or === undefined ? 1 : 2)) {
    asked.push(setting)
    return settingAt(values, setting) ?? or ?? absent
  }
  const filled: Record<string, unknown> = {}
  for (const [key, inner] of Object.entries(part)) {
    const value = fill(inner, values, asked)
    if (value === absent) return absent
    filled[key] = value
  }
  return filled
}

/** Whether a row is there with these settings. Adds the paths of settings that were asked for, and given, to `asked`. */
export function isProvided(provided: Provided | undefined, values: Values, asked: string[]): boolean {
  if (provided === undefined) return true
  if (typeof provided === 'string') {
    const value = settingAt(values, provided)
    if (value === undefined || value === false) return false
    asked.push(provided)
    return true
  }
  if ('setting' in provided) {
    if (settingAt(values, provided.setting) !== provided.is) return false
    asked.push(provided.setting)
    return true
  }
  if ('all' in provided) return provided.all.every((inner) => isProvided(inner, values, asked))
  if ('any' in provided) return provided.any.some((inner) => isProvided(inner, values, asked))
  return !isProvided(provided.not, values, [])
}
