import { plainLevelSchema, type Setting, type TypeDefinition } from '../model/index.ts'
import { takes } from './described.ts'
import { builtInTypes } from './types.ts'

type Json = Record<string, unknown>

/**
 * The JSON Schema (2020-12) of level files, for editors, with the names of built-in types, and for each of them its
 * settings and states. It only offers them: a level may have types of its own, of any name.
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
  return { ...schema, properties: { ...schema.properties, interactables } }
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
