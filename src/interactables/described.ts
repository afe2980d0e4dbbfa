import type { Setting, TypeDefinition } from '../model/index.ts'

/** A setting of a type, with everything that a designer asks about it. */
export interface SettingLine {
  /** `lock.item`, for a setting of a group. */
  readonly path: string
  /** What it takes, with its unit: `seconds`, `the name of an item`, `turn or slide`. */
  readonly takes: string
  /** Its default as it would be written; null where it has none. */
  readonly default: string | null
  readonly needed: boolean
  readonly about: string
}

/** A type as a designer reads about it. */
export interface TypeSheet {
  readonly name: string
  readonly about: string
  /** All states that it can have; those that hang on a setting are in instances that use it. */
  readonly states: readonly string[]
  readonly zones: readonly string[]
  readonly settings: readonly SettingLine[]
}

/** What there is to say about a type. */
export function typeSheet(name: string, type: TypeDefinition): TypeSheet {
  return {
    name,
    about: type.about ?? '',
    states: Object.keys(type.states ?? {}),
    zones: Object.keys(type.zones ?? {}),
    settings: settingLines(type.settings ?? {}, ''),
  }
}

function settingLines(settings: Readonly<Record<string, Setting>>, prefix: string): SettingLine[] {
  return Object.entries(settings).flatMap(([key, setting]) => {
    const path = prefix + key
    if (setting.kind === 'group') return settingLines(setting.fields ?? {}, `${path}.`)
    return [
      {
        path,
        takes: takes(setting),
        default: setting.default === undefined ? null : flow(setting.default),
        needed: setting.needed ?? false,
        about: setting.about ?? '',
      },
    ]
  })
}

/** What a setting takes, with its unit. */
export function takes({ kind, options }: Setting): string {
  switch (kind) {
    case 'choice':
      return (options ?? []).join(' or ')
    case 'yes-no':
      return 'true or false'
    case 'seconds':
    case 'metres':
    case 'degrees':
      return kind
    case 'item-names':
      return 'a list of items'
    case 'triggers':
      return `a list of ${(options ?? []).map((one) => (one === 'signal' ? '{ signal: name }' : one)).join(', ')}`
    case 'speed':
      return 'degrees or metres a second'
    case 'count':
      return 'a whole number'
    case 'items':
      return 'a list of { item, count }'
    case 'digits':
      return 'a list of whole numbers'
    case 'shift':
      return '[x, y, z] in metres'
    case 'condition':
    case 'text':
    case 'tag':
      return `a ${kind}`
    default:
      return `the name of ${/^[aeiou]/.test(kind) ? 'an' : 'a'} ${kind}`
  }
}

/**
 * An instance of a type as a level file has it, with every setting: those that have a default with it, the others as
 * comments that can be filled in. `place` is the line that says where it stands, such as `at: [2, 3]`.
 */
export function exampleInstance(name: string, type: TypeDefinition, place: string): string {
  const lines = [`  my-${name}:`, `    type: ${name}`, `    ${place}`]
  const settings = Object.entries(type.settings ?? {})
  const set = settings.flatMap(([key, one]) => exampleLines(key, one, '      '))
  // A mapping cannot consist of comments alone: the first setting is given then.
  if (set.length > 0 && set.every((line) => line.trim().startsWith('#'))) set[0] = set[0]!.replace('# ', '')
  return [...lines, ...(set.length > 0 ? ['    set:', ...set] : [])].join('\n')
}

function exampleLines(key: string, setting: Setting, indent: string): string[] {
  const about = setting.about === undefined ? '' : ` # ${setting.about}`
  if (setting.kind === 'group') {
    const fields = Object.entries(setting.fields ?? {})
    const isThere = fields.some(([, field]) => field.default !== undefined) && setting.default !== undefined
    if (isThere) {
      return [`${indent}${key}:${about}`, ...fields.flatMap(([field, one]) => exampleLines(field, one, `${indent}  `))]
    }
    if (setting.needed) {
      return [`${indent}${key}:${about}`, ...fields.flatMap(([field, one]) => exampleLines(field, one, `${indent}  `))]
    }
    const inner = fields.map(
      ([field, one]) => `${indent}#   ${field}: ${sample(one)} # ${takes(one)}. ${one.about ?? ''}`,
    )
    return [`${indent}# ${key}:${about}`, ...inner]
  }
  if (setting.default !== undefined) return [`${indent}${key}: ${flow(setting.default)}${about}`]
  const line = `${key}: ${sample(setting)} # ${takes(setting)}. ${setting.about ?? ''}`
  return [setting.needed ? `${indent}${line}` : `${indent}# ${line}`]
}

function sample(setting: Setting): string {
  if (setting.default !== undefined) return flow(setting.default)
  switch (setting.kind) {
    case 'choice':
      return setting.options?.[0] ?? ''
    case 'seconds':
      return '3'
    case 'metres':
    case 'count':
      return '2'
    case 'degrees':
    case 'speed':
      return '90'
    case 'digits':
      return '[3, 1]'
    case 'shift':
      return '[0, 0, 1]'
    case 'items':
      return '[{ item: my-item }]'
    case 'item-names':
      return '[my-item]'
    case 'triggers':
      return '[press]'
    case 'condition':
      return '{ carries: my-item }'
    case 'yes-no':
      return 'true'
    default:
      return `my-${setting.kind}`
  }
}

/** A plain value as YAML on one line. */
export function flow(value: unknown): string {
  if (Array.isArray(value)) return `[${value.map(flow).join(', ')}]`
  if (typeof value === 'object' && value !== null) {
    return `{ ${Object.entries(value)
      .map(([key, part]) => `${key}: ${flow(part)}`)
      .join(', ')} }`
  }
  return String(value)
}
