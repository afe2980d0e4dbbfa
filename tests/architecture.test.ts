import { expect, test } from '@jest/globals'
import { spawnSync } from 'node:child_process'
import { readdirSync } from 'node:fs'
import { project, textOf } from './levels.ts'

/** The folders of the house, from the bottom to the top: imports only run downwards. */
const order = [
  'model',
  'interactables',
  'space',
  'machine',
  'play',
  'explore',
  'findings',
  'cover',
  'draw',
  'formats',
  'library',
  'cli',
]

interface Cruise {
  readonly modules: readonly {
    readonly source: string
    readonly dependencies: readonly { readonly resolved: string; readonly circular: boolean; readonly module: string }[]
  }[]
}

const cruise = JSON.parse(
  spawnSync(
    `${project}node_modules/.bin/depcruise`,
    ['src', '--no-config', '--ts-pre-compilation-deps', '--output-type', 'json'],
    {
      cwd: project,
      encoding: 'utf8',
      env: { ...process.env, NODE_OPTIONS: '' },
      maxBuffer: 64 * 1024 * 1024,
    },
  ).stdout,
) as Cruise

const own = cruise.modules.filter(({ source }) => source.startsWith('src/'))

test('imports run from the top of the house to the bottom, never back up', () => {
  expect(own.length).toBeGreaterThan(60)
  const folder = (file: string): number => order.indexOf(file.split('/')[1] ?? '')
  const wrong = own.flatMap(({ source, dependencies }) =>
    dependencies
      .filter(({ resolved }) => resolved.startsWith('src/') && source.split('/').length > 2)
      .filter(({ resolved }) => folder(resolved) > folder(source) || folder(resolved) < 0)
      .map(({ resolved }) => `${source} imports ${resolved}`),
  )
  expect(wrong).toEqual([])
})

test('a folder is entered by its face', () => {
  const wrong = own.flatMap(({ source, dependencies }) =>
    dependencies
      .filter(({ resolved }) => resolved.startsWith('src/') && resolved.split('/')[1] !== source.split('/')[1])
      .filter(({ resolved }) => !resolved.endsWith('/index.ts'))
      .map(({ resolved }) => `${source} imports ${resolved}`),
  )
  expect(wrong).toEqual([])
})

test('no imports go in a circle', () => {
  const circles = own.flatMap(({ source, dependencies }) =>
    dependencies.filter(({ circular }) => circular).map(({ resolved }) => `${source} -> ${resolved}`),
  )
  expect(circles).toEqual([])
})

test('the core knows no process: only the command line imports what Node brings', () => {
  const wrong = own
    .filter(({ source }) => !source.startsWith('src/cli/'))
    .flatMap(({ source, dependencies }) =>
      dependencies.filter(({ module }) => module.startsWith('node:')).map(() => source),
    )
  expect(wrong).toEqual([])
})

test('faces list their names, and no file is too long to be read in a sitting', () => {
  const files = readdirSync(`${project}src`, { recursive: true })
    .map(String)
    .filter((file) => file.endsWith('.ts'))
  for (const file of files) {
    const text = textOf(`src/${file}`)
    expect(`${file}: ${String(text.includes('export * from'))}`).toBe(`${file}: false`)
    expect(`${file}: ${text.split('\n').length > 560 ? 'too long' : 'fine'}`).toBe(`${file}: fine`)
  }
})
