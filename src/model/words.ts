import type * as z from 'zod'
import { diagnostic, type Diagnostic, quoted } from './diagnostics.ts'
import { isExtra } from './vocabulary.ts'
import { nearestName } from './nearest.ts'
import { join, type Source } from './source.ts'

type Issue = z.core.$ZodIssue

/** Puts what a schema found wrong into our words, with places; `x-` keys are nobody's business. */
export function shapeDiagnostics(issues: readonly Issue[], source: Source, keys: KeysOf): Diagnostic[] {
  return issues.filter(hasNoOther).flatMap((issue) => told(issue, '', source.value, source, keys))
}

/** A mapping with an unknown key is not told as well that it lacks a known one: most likely they are the same. */
function hasNoOther(issue: Issue, _: number, all: readonly Issue[]): boolean {
  if (issue.code !== 'custom') return true
  const path = issue.path.join('.')
  return !all.some(
    (other) => other.code === 'unrecognized_keys' && !other.keys.every(isExtra) && other.path.join('.') === path,
  )
}

/** Of many unknown keys in one mapping only so many are told. */
const mostKeys = 25

/** The keys that a schema knows at a path, for the nearest right one. */
export type KeysOf = (path: readonly PropertyKey[]) => readonly string[]

function told(issue: Issue, base: string, value: unknown, source: Source, keys: KeysOf): Diagnostic[] {
  const path = issue.path.reduce<string>((before, key) => join(before, String(key)), base)
  const at = inside(value, issue.path)
  if (issue.code === 'unrecognized_keys') return unknownKeys(issue.keys, path, source, keys)
  if (issue.code === 'invalid_union') {
    const branch = bestBranch(issue.errors)
    if (branch) return branch.filter(hasNoOther).flatMap((inner) => told(inner, path, at, source, keys))
  }
  if (issue.code === 'invalid_key') return [badName(path, issue.path, source)]
  if (at === undefined && issue.code !== 'custom') return [missing(path, source)]
  const place = source.place(path)
  if (['zintel', 'walkthrough', 'project'].includes(path)) return [wrongVersion(place, at)]
  const message = `${subject(path)} ${issue.code === 'custom' ? 'needs something else' : 'has the wrong shape'}.`
  const found = issue.code === 'custom' && typeof at === 'object' ? null : quoted(at)
  return [
    diagnostic('wrong-shape', place, message, { expected: expected(issue), found, nearest: nearestOf(issue, at) }),
  ]
}

function unknownKeys(unknown: readonly string[], path: string, source: Source, keys: KeysOf): Diagnostic[] {
  const strange = unknown.filter((key) => !isExtra(key))
  const told = strange.slice(0, mostKeys).map((key) => {
    const known = keys(path === '' ? [] : path.split('.'))
    const nearest = nearestName(key, known)
    const expected = nearest === null && known.length > 0 ? `one of ${known.join(', ')}` : null
    const message = `${subject(path)} has no key ${quoted(key)}.`
    return diagnostic('unknown-key', source.keyPlace(join(path, key)), message, { nearest, expected })
  })
  if (strange.length <= mostKeys) return told
  const rest = `${subject(path)} has ${String(strange.length - mostKeys)} more keys that are not known.`
  return [...told, diagnostic('unknown-key', source.keyPlace(join(path, strange[mostKeys] ?? '')), rest)]
}

function missing(path: string, source: Source): Diagnostic {
  const cut = path.lastIndexOf('.')
  const outer = path.slice(0, Math.max(0, cut))
  const key = path.slice(cut + 1)
  return diagnostic('missing-key', source.keyPlace(outer), `${subject(outer)} lacks ${quoted(key)}.`)
}

function badName(path: string, keys: readonly PropertyKey[], source: Source): Diagnostic {
  const message = `${quoted(String(keys[keys.length - 1] ?? ''))} cannot be a name.`
  const expected = 'lower-case letters, digits and dashes, beginning with a letter'
  return diagnostic('bad-key', source.keyPlace(path), message, { expected })
}

function wrongVersion(place: Diagnostic['place'], value: unknown): Diagnostic {
  return diagnostic('wrong-version', place, 'This is another version of the format.', {
    expected: '1',
    found: quoted(value),
  })
}

/** Of a union's branches, the one that went furthest: not refused at its root, or else none. */
function bestBranch(branches: readonly (readonly Issue[])[]): readonly Issue[] | null {
  const entered = branches.filter((issues) => !issues.some(atRoot))
  const deep = (issues: readonly Issue[]): number => Math.max(0, ...issues.map((issue) => issue.path.length))
  return entered.sort((a, b) => a.length - b.length || deep(b) - deep(a))[0] ?? null
}

function atRoot(issue: Issue): boolean {
  return (
    issue.path.length === 0 &&
    (issue.code === 'invalid_type' || issue.code === 'invalid_value' || issue.code === 'invalid_union')
  )
}

function subject(path: string): string {
  return path === '' ? 'The file' : path
}

function expected(issue: Issue): string | null {
  switch (issue.code) {
    case 'invalid_type':
      return typeWords[issue.expected] ?? issue.expected
    case 'too_small':
      if (issue.origin === 'array') return `at least ${String(issue.minimum)} values`
      return issue.origin === 'string' ? 'a text that is not empty' : `at least ${String(issue.minimum)}`
    case 'too_big':
      if (issue.origin === 'array') return `at most ${String(issue.maximum)} values`
      return issue.origin === 'string'
        ? `at most ${String(issue.maximum)} characters`
        : `at most ${String(issue.maximum)}`
    case 'invalid_value':
      return issue.values.map((value) => quoted(value)).join(' or ')
    case 'invalid_union':
      return unionWords(issue.errors)
    default:
      return issue.message
  }
}

function unionWords(branches: readonly (readonly Issue[])[]): string {
  const words = branches.map((issues) => (issues[0] ? expected(issues[0]) : null))
  return [...new Set(words.filter((word) => word !== null))].join(', or ')
}

function nearestOf(issue: Issue, value: unknown): string | null {
  if (issue.code !== 'invalid_value' || typeof value !== 'string') return null
  return nearestName(
    value,
    issue.values.filter((v) => typeof v === 'string'),
  )
}

const typeWords: Readonly<Record<string, string>> = {
  object: 'a mapping of keys to values',
  record: 'a mapping of names to values',
  array: 'a list',
  tuple: 'a list',
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
}

function inside(value: unknown, path: readonly PropertyKey[]): unknown {
  let at = value
  for (const key of path) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, key)) return undefined
    at = (at as Record<PropertyKey, unknown>)[key]
  }
  return at
}
