import type { Level, TypeDefinition } from '../model/index.ts'
import { button } from './button.ts'
import { checkpoint, pit } from './checkpoint.ts'
import { chest } from './chest.ts'
import { dialLock } from './dial-lock.ts'
import { door } from './door.ts'
import { drawer } from './drawer.ts'
import { exit } from './exit.ts'
import { keyhole } from './keyhole.ts'
import { lamp } from './lamp.ts'
import { lever } from './lever.ts'
import { pickup } from './pickup.ts'
import { pressurePlate } from './pressure-plate.ts'

/** The types that every level has; a type of the same name in a level takes the place of one of these. */
export const builtInTypes: Readonly<Record<string, TypeDefinition>> = {
  door,
  drawer,
  chest,
  keyhole,
  pickup,
  lever,
  button,
  'pressure-plate': pressurePlate,
  'dial-lock': dialLock,
  lamp,
  exit,
  checkpoint,
  pit,
}

/** A type with what it extends merged in. */
export interface TypeChain {
  /** Null where there is no type of that name. */
  readonly type: TypeDefinition | null
  /** The path of the definition in the level; null for a built-in type. */
  readonly path: string | null
  /** For each row of `transitions`: its path in the level, or null where it is a built-in type's. */
  readonly rows: readonly (string | null)[]
  /** For each state: its path in the level, or null. */
  readonly states: Readonly<Record<string, string | null>>
  /** The `extends` that leads nowhere, or round in a circle; null where there is none. */
  readonly broken: { readonly path: string; readonly name: string } | null
}

const nothing: TypeChain = { type: null, path: null, rows: [], states: {}, broken: null }

/** Looks up a type by name, in the level first, and merges what it extends. `renames` maps paths to granted names. */
export function typeChain(
  level: Level,
  name: string,
  renames: ReadonlyMap<string, string> = new Map(),
  passed: readonly string[] = [],
): TypeChain {
  const own = level.types !== undefined && Object.hasOwn(level.types, name) ? level.types[name] : undefined
  const type = own ?? (Object.hasOwn(builtInTypes, name) ? builtInTypes[name] : undefined)
  if (!type) return nothing
  const path = own ? `types.${name}` : null
  const self = alone(type, path)
  if (type.extends === undefined) return self
  const extendsPath = `types.${name}.extends`
  const wanted = renames.get(extendsPath) ?? type.extends
  // A level's type may extend the built-in type whose name it takes.
  const base =
    wanted === name && own && Object.hasOwn(builtInTypes, name)
      ? alone(builtInTypes[name] ?? type, null)
      : passed.includes(wanted) || wanted === name
        ? nothing
        : typeChain(level, wanted, renames, [...passed, name])
  if (!base.type) return { ...self, broken: { path: extendsPath, name: wanted } }
  return merged(base, self, type)
}

function alone(type: TypeDefinition, path: string | null): TypeChain {
  const rows = (type.transitions ?? []).map((_, i) => (path === null ? null : `${path}.transitions.${String(i)}`))
  const names = Object.keys(type.states ?? {})
  const states = Object.fromEntries(names.map((state) => [state, path === null ? null : `${path}.states.${state}`]))
  return { type, path, rows, states, broken: null }
}

function merged(base: TypeChain, self: TypeChain, own: TypeDefinition): TypeChain {
  const under = base.type ?? {}
  const rows = (under.transitions ?? []).map((row, i) => ({ row, path: base.rows[i] ?? null }))
  for (const [i, row] of (own.transitions ?? []).entries()) {
    const entry = { row, path: self.rows[i] ?? null }
    const same = row.name === undefined ? -1 : rows.findIndex((before) => before.row.name === row.name)
    if (same < 0) {
      rows.push(entry)
      continue
    }
    const others = rows.filter((before, at) => at < same || before.row.name !== row.name)
    rows.splice(0, rows.length, ...others.slice(0, same), entry, ...others.slice(same))
  }
  const type: TypeDefinition = {
    ...under,
    ...own,
    settings: { ...under.settings, ...own.settings },
    states: { ...under.states, ...own.states },
    transitions: rows.map(({ row }) => row),
    zones: { ...under.zones, ...own.zones },
    feedback: { ...under.feedback, ...own.feedback },
  }
  return {
    type,
    path: self.path,
    rows: rows.map(({ path }) => path),
    states: { ...base.states, ...self.states },
    broken: base.broken,
  }
}
