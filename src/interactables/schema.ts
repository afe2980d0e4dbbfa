import { plainLevelSchema, type Setting, type TypeDefinition } from '../model/index.ts'
import { takes } from './described.ts'
import { builtInTypes } from './types.ts'

type Json = Record<string, unknown>

/**
 * The JSON Schema (2020-12) of level files, for editors, with the names of built-in types, and for each of them its
 * settings and states. A setting that a type does not have is marked, unless the level has a type of its own of that name.
 */
export function levelJsonSchema(): object {
  const schema = plainLevelSchema() as { properties: { interactables: { additionalProperties: Json } } }
  const instance = schema.properties.interactables.additionalProperties
  const properties = instance.properties as Json
  const type = properties.type as Json
  const names = Object.keys(builtInTypes)
  const offered = {
    ...instance,
    properties: {
      ...properties,
      type: { anyOf: [{ enum: names }, type], description: 'A built-in type, or one of the level.' },
    },
    allOf: Object.entries(builtInTypes).map(([name, definition]) => ({
      if: { properties: { type: { const: name } }, required: ['type'] },
      then: {
        properties: { set: settingsSchema(definition), initial: { anyOf: [{ enum: statesOf(definition) }, type] } },
      },
    })),
  }
  const interactables = { ...schema.properties.interactables, additionalProperties: offered }
  const allOf = Object.entries(builtInTypes).map(([name, definition]) => ({
    if: { not: { required: ['types'], properties: { types: { required: [name] } } } },
    then: { properties: { interactables: { additionalProperties: knownSettings(name, definition) } } },
  }))
  return { $id: 'urn:zintel:level:1', ...schema, properties: { ...schema.properties, interactables }, allOf }
}

/** Instances of a built-in type have no settings but its own. */
function knownSettings(name: string, { settings }: TypeDefinition): Json {
  const properties = Object.fromEntries(Object.keys(settings ?? {}).map((setting) => [setting, true]))
  return {
    if: { required: ['type'], properties: { type: { const: name } } },
    then: { properties: { set: { properties, additionalProperties: false } } },
  }
}

function statesOf({ states }: TypeDefinition): string[] {
  return Object.keys(states ?? {})
}

function settingsSchema({ about, settings }: TypeDefinition): Json {
  return { type: 'object', description: about, properties: mapped(settings ?? {}) }
}

function mapped(settings: Readonly<Record<string, Setting>>): Json {
  return Object.fromEntries(Object.entries(settings).map(([name, setting]) => [name, settingSchema(setting)]))
}

function settingSchema(setting: Setting): Json {
  const about = setting.kind === 'group' ? setting.about : `${takes(setting)}. ${setting.about ?? ''}`
  const given = setting.default === undefined || setting.kind === 'group' ? {} : { default: setting.default }
  return { description: about, ...given, ...shape(setting) }
}

function shape(setting: Setting): Json {
  switch (setting.kind) {
    case 'group':
      return { type: 'object', properties: mapped(setting.fields ?? {}) }
    case 'choice':
      return { enum: setting.options ?? [] }
    case 'yes-no':
      return { type: 'boolean' }
    case 'seconds':
    case 'metres':
    case 'degrees':
    case 'speed':
      return { type: 'number' }
    case 'count':
      return { type: 'integer', minimum: 1 }
    case 'triggers':
      return { type: 'array', items: triggerSchema(setting.options ?? []), uniqueItems: true }
    case 'items':
    case 'item-names':
    case 'digits':
    case 'shift':
      return { type: 'array' }
    case 'condition':
      return { $ref: '#/$defs/condition' }
    default:
      return { type: 'string' }
  }
}

function triggerSchema(options: readonly string[]): Json {
  const plain = { enum: options.filter((one) => one !== 'signal') }
  if (!options.includes('signal')) return plain
  const signal = { type: 'object', properties: { signal: { type: 'string' } }, required: ['signal'] }
  return { anyOf: [plain, { ...signal, additionalProperties: false }] }
}
