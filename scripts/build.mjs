import { chmodSync, copyFileSync, existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { root, run, tool } from './run.mjs'
import { fingerprint, setup } from './setup.mjs'

const stamp = `${root}dist/.zintel-built`

/** Compiles the library and writes its schemas, unless nothing has changed since the last time. */
export async function build() {
  setup()
  const files = readdirSync(`${root}src`, { recursive: true }).map((file) => `src/${file}`)
  const sources = files.filter((file) => file.endsWith('.ts')).sort()
  const wanted = fingerprint([
    ...sources,
    ...pages().map((page) => `docs/findings/${page}`),
    'tsconfig.json',
    'tsconfig.build.json',
    'package-lock.json',
    'scripts/build.mjs',
  ])
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return
  run(tool('tsc'), ['-p', 'tsconfig.build.json'])
  await bundleCommand()
  copyPages()
  await writeSchemas()
  writeFileSync(stamp, wanted)
}

/** One small program for the command line, with what it needs inside: it starts twice as fast as hundreds of files. */
async function bundleCommand() {
  const { build: bundle } = await import('rolldown')
  const folder = `${root}dist/bin`
  const output = { dir: folder, format: 'esm', minify: true, entryFileNames: '[name].js', chunkFileNames: '[name].js' }
  const { output: files } = await bundle({
    input: { zintel: `${root}dist/cli/main.js`, helper: `${root}dist/cli/helper.js` },
    platform: 'node',
    output,
  })
  const inside = files.flatMap(({ moduleIds = [] }) => moduleIds).flatMap((id) => packageOf(id) ?? [])
  writeFileSync(`${folder}/NOTICE`, [...new Set(inside)].sort().map(noticeOf).join('\n'))
  chmodSync(`${folder}/zintel.js`, 0o755)
}

/** The package that a module belongs to; undefined for our own. */
function packageOf(id) {
  return /node_modules\/((?:@[^/]+\/)?[^/]+)\/(?!.*node_modules)/.exec(id)?.[1]
}

function noticeOf(name) {
  const folder = `${root}node_modules/${name}/`
  const licence = readdirSync(folder).find((file) => /^licen[cs]e/i.test(file))
  return `${name}\n\n${licence ? readFileSync(folder + licence, 'utf8').trim() : 'see its package'}\n`
}

/** The pages about rules, for `zintel explain`. */
function copyPages() {
  mkdirSync(`${root}dist/explain`, { recursive: true })
  for (const page of pages()) copyFileSync(`${root}docs/findings/${page}`, `${root}dist/explain/${page}`)
}

function pages() {
  return readdirSync(`${root}docs/findings`).filter((file) => file.endsWith('.md') && file !== 'README.md')
}

async function writeSchemas() {
  const zintel = await import(pathToFileURL(`${root}dist/schemas.js`).href)
  mkdirSync(`${root}schemas`, { recursive: true })
  const schemas = {
    level: zintel.levelJsonSchema(),
    walkthrough: zintel.walkthroughJsonSchema(),
    project: zintel.projectJsonSchema(),
    common: zintel.commonJsonSchema(),
    check: zintel.reportJsonSchema(),
    play: zintel.verdictJsonSchema(),
  }
  for (const [name, schema] of Object.entries(schemas)) {
    writeFileSync(`${root}schemas/${name}.schema.json`, `${JSON.stringify(schema, null, 2)}\n`)
  }
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await build()
