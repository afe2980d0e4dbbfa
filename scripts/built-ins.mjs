import { writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { build } from './build.mjs'
import { root, run, tool } from './run.mjs'

const file = `${root}src/model/built-ins.ts`

/** The names of the built-in types, of their states, zones and settings, as types: what `defineLevel` holds instances to. */
export function builtInShapes(builtInTypes) {
  const shapes = Object.entries(builtInTypes).map(([name, type]) => [name, shapeOf(type)])
  return [
    '// Written by scripts/built-ins.mjs from the built-in types; a test compares.',
    '',
    '/** What the built-in types have, by name. */',
    `export interface BuiltInShapes ${written(Object.fromEntries(shapes))}`,
    '',
  ].join('\n')
}

function shapeOf({ states = {}, zones = {}, settings = {} }) {
  const named = (all) => Object.fromEntries(Object.keys(all).map((name) => [name, 'unknown']))
  return { states: named(states), zones: named(zones), settings: settingsOf(settings) }
}

function settingsOf(settings) {
  return Object.fromEntries(
    Object.entries(settings).map(([name, { kind, options, fields }]) => [
      name,
      {
        kind: `'${kind}'`,
        ...(options ? { options: `readonly [${options.map((one) => `'${one}'`).join(', ')}]` } : {}),
        ...(fields ? { fields: settingsOf(fields) } : {}),
      },
    ]),
  )
}

function written(value, indent = '') {
  if (typeof value === 'string') return value
  const keys = Object.entries(value)
  if (keys.length === 0) return 'object'
  const lines = keys.map(([key, inner]) => {
    const name = /^[a-z]+$/.test(key) ? key : `'${key}'`
    return `${indent}  readonly ${name}: ${written(inner, `${indent}  `)}`
  })
  return `{\n${lines.join('\n')}\n${indent}}`
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) {
  await build()
  const { builtInTypes } = await import(pathToFileURL(`${root}dist/index.js`).href)
  writeFileSync(file, builtInShapes(builtInTypes))
  run(tool('prettier'), ['--write', '--log-level', 'warn', file])
}
