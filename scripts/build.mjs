import { chmodSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { root, run, tool } from './run.mjs'
import { fingerprint, setup } from './setup.mjs'

const stamp = `${root}dist/.zintel-built`

/** Compiles the library and writes its schemas, unless nothing has changed since the last time. */
export async function build() {
  setup()
  const files = readdirSync(`${root}src`, { recursive: true }).map((file) => `src/${file}`)
  const sources = files.filter((file) => file.endsWith('.ts')).sort()
  const wanted = fingerprint([...sources, 'tsconfig.json', 'tsconfig.build.json', 'package-lock.json'])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  run(tool('tsc'), ['-p', 'tsconfig.build.json'])
  chmodSync(`${root}dist/cli/main.js`, 0o755)
  await writeSchemas()
  writeFileSync(stamp, wanted)
}

async function writeSchemas() {
  const zintel = await import(pathToFileURL(`${root}dist/index.js`).href)
  mkdirSync(`${root}schemas`, { recursive: true })
  const schemas = {
    level: zintel.levelJsonSchema(),
    walkthrough: zintel.walkthroughJsonSchema(),
    check: zintel.reportJsonSchema(),
  }
  for (const [name, schema] of Object.entries(schemas)) {
    writeFileSync(`${root}schemas/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`)
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await build()
