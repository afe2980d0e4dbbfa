import { type Effect, join, type Level, type TypeDefinition } from '../model/index.ts'
import type { Draft } from './draft.ts'
import type { Names } from './names.ts'
import { settingAt, writtenPath } from './settings.ts'
import { filledIn, isProvided } from './template.ts'

/** A row of a type that is there in an instance, with the settings of the instance filled in. */
export interface Row {
  readonly definition: NonNullable<TypeDefinition['transitions']>[number]
  /** Its own path in the level; null for a built-in type's row. */
  readonly path: string | null
  /** The settings that say whether it is there, and those that its parts are taken from. */
  readonly hangsOn: readonly string[]
  readonly asked: readonly string[]
  /** The effects that are there, each with its place in the row, and the settings that it hangs on. */
  readonly effects: readonly { readonly effect: Effect; readonly at: number; readonly hangsOn: readonly string[] }[]
}

/** The rows of a type that are there in an instance: as its settings say, and between states that are there. */
export function presentRows(one: Draft, names: Names, level: Level): Row[] {
  return (one.type.transitions ?? []).flatMap((row, i) => {
    const path = one.chain.rows[i] ?? null
    const each = row['for-each']
    if (each === undefined) return presentRow(one, row, path, one.values, names)
    const entries = settingAt(one.values, each)
    if (!Array.isArray(entries)) return []
    return (entries as { item: string; count?: number }[]).flatMap(({ item, count = 1 }) => {
      const own = { ...row, name: `${row.name ?? 'row'}-${item}`, trigger: optionFor(row.trigger, item, level) }
      return presentRow(one, own, path, { ...one.values, each: { item, count } }, names)
    })
  })
}

/** The text of an option for one item of a list: `{item}` is its title. */
function optionFor(trigger: Definition['trigger'], item: string, { items }: Level): Definition['trigger'] {
  if (typeof trigger !== 'object' || trigger.option === undefined) return trigger
  return { ...trigger, option: trigger.option.replaceAll('{item}', items?.[item]?.title ?? item) }
}

type Definition = Row['definition']

/** A row as an instance has it; nothing where it is not there. */
function presentRow(one: Draft, row: Definition, path: string | null, values: Draft['values'], names: Names): Row[] {
  const all = Object.keys(one.type.states ?? {})
  const hangsOn: string[] = []
  const asked: string[] = []
  if (!isProvided(row.if, values, hangsOn)) return []
  const definition = filledIn(row, values, asked)
  if (!definition) return []
  const effects = (row.effects ?? []).flatMap((effect, at) => {
    const settings: string[] = []
    if (!isProvided(effect.if, values, settings)) return []
    const filled = filledIn(effect, values, [])
    return filled ? [{ effect: filled, at, hangsOn: settings }] : []
  })
  const listed = [row.from].flat()
  for (const [at, from] of listed.entries()) {
    const part = Array.isArray(row.from) ? `from.${String(at)}` : 'from'
    names.find('state', from, all, join(path ?? one.path, part), one.name)
  }
  const from = listed.map((state) => rename(names, 'state', state, all, join(path ?? one.path, 'from')))
  const present = from.filter((state) => one.states.includes(state))
  if (present.length === 0) return []
  const known = row.to === undefined || all.includes(row.to)
  if (known && row.to !== undefined && !one.states.includes(row.to)) return []
  return [{ definition: { ...definition, from: present }, path, hangsOn, asked, effects }]
}

function rename(names: Names, kind: 'state', name: string, all: readonly string[], path: string): string {
  if (all.includes(name)) return name
  return all[names.find(kind, name, all, path, '')] ?? name
}

/** The line that made a row: its own; for a built-in type the last setting that it hangs on and the instance gives. */
export function madeBy(one: Draft, row: Row): string {
  if (row.path !== null) return row.path
  const isGiven = (path: string): boolean => settingAt(one.instance.set ?? {}, path) !== undefined
  const last = row.hangsOn.filter(isGiven).at(-1) ?? row.asked.find(isGiven)
  return last === undefined ? one.path : settingPath(one, last)
}

/** Where an instance gives a setting. */
function settingPath(one: Draft, setting: string): string {
  return `${one.path}.set.${writtenPath(one.instance.set ?? {}, setting)}`
}

/** Where it was written that a row spends something; null where it does not. */
export function spendingPath(one: Draft, row: Row, made: string): string | null {
  const spending = row.effects.find(({ effect }) => effect.consume !== undefined)
  if (!spending) return null
  const last = spending.hangsOn.filter((path) => settingAt(one.instance.set ?? {}, path) !== undefined).at(-1)
  if (last !== undefined) return settingPath(one, last)
  return pathOf(one, row, `effects.${String(spending.at)}.consume`, made)
}

/** Where a part of a row was written: the setting that it was taken from, where the instance gives that, or its own line. */
export function pathOf(one: Draft, row: Row, part: string, made: string): string {
  const template = partOf(templateRow(one, row), part.split('.'))
  if (template !== null) {
    const given = settingAt(one.instance.set ?? {}, template.setting)
    if (given !== undefined) return join(settingPath(one, template.setting), template.rest).replace(/\.$/, '')
  }
  return row.path === null ? made : join(row.path, part)
}

function templateRow(one: Draft, row: Row): unknown {
  const at = row.path === null ? -1 : one.chain.rows.indexOf(row.path)
  if (at >= 0) return one.type.transitions?.[at]
  return one.type.transitions?.find(
    (candidate, i) =>
      one.chain.rows[i] === null && candidate.name === row.definition.name && isProvided(candidate.if, one.values, []),
  )
}

function partOf(template: unknown, keys: readonly string[]): { setting: string; rest: string } | null {
  let at = template
  for (const [i, key] of keys.entries()) {
    if (typeof at !== 'object' || at === null) return null
    at = (at as Record<string, unknown>)[key]
    const setting = (at as { setting?: unknown } | undefined)?.setting
    if (typeof setting === 'string') return { setting, rest: keys.slice(i + 1).join('.') }
  }
  return null
}
