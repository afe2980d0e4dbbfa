import type { Instance, Level, TypeDefinition } from '../model/index.ts'
import type { Names } from './names.ts'
import { settingValues } from './settings.ts'
import { isProvided } from './template.ts'
import { builtInTypes, type TypeChain, typeChain } from './types.ts'

type Values = Readonly<Record<string, unknown>>

/** An instance with its type found and its settings filled in, before names of others are looked up. */
export interface Draft {
  readonly name: string
  readonly path: string
  readonly instance: Instance
  readonly chain: TypeChain
  readonly type: TypeDefinition
  readonly values: Values
  readonly states: readonly string[]
}

export function draft(
  level: Level,
  name: string,
  instance: Instance,
  names: Names,
  granted: ReadonlyMap<string, string>,
): Draft {
  const path = `interactables.${name}`
  const wanted = granted.get(`${path}.type`) ?? instance.type
  const chain = typeChain(level, wanted, granted)
  if (!chain.type) names.find('type', wanted, typeNames(level), `${path}.type`, name)
  tellBroken(chain, level, name, names)
  const type = chain.type ?? {}
  const values = settingValues(type, instance.set ?? {})
  const states = Object.entries(type.states ?? {}).filter(([, state]) => isProvided(state.if, values, []))
  const known = states.map(([state]) => state)
  return { name, path, instance, chain, type, values, states: known.length === 0 ? ['there'] : known }
}

/** An `extends` that leads nowhere, or back to where it came from. */
export function tellBroken({ broken }: TypeChain, level: Level, subject: string, names: Names): void {
  if (!broken) return
  const all = typeNames(level)
  if (!all.includes(broken.name)) names.find('type', broken.name, all, broken.path, subject)
  else names.tell({ rule: 'bad-value', path: broken.path, subject, wrong: { is: 'extends-circle', type: broken.name } })
}

function typeNames(level: Level): string[] {
  return [...Object.keys(level.types ?? {}), ...Object.keys(builtInTypes)]
}
