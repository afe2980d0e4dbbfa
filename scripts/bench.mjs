import { spawnSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pathToFileURL } from 'node:url'
import ts from 'typescript'
import { parse } from 'yaml'
import { build } from './build.mjs'
import { root } from './run.mjs'

// How long whole checks of made-up levels take, as processes, and how much memory: medians of so many runs, beside a bare
// node. Read them as ratios; machines are noisy. npm run bench [runs] [part of a name]
const runs = Number(process.argv[2] ?? 5)
const only = process.argv[3] ?? ''

await build()
const main = `${root}dist/bin/zintel.js`
const folder = mkdtempSync(join(tmpdir(), 'zintel-bench-'))
try {
  const make = await generator()
  const bare = median(Array.from({ length: runs }, () => timed(['-e', '0']).seconds))
  line('level', 'seconds', 'bare nodes', 'MB', 'questions', 'undecided')
  line('(a bare node)', bare.toFixed(2), '1', '', '', '')
  for (const [name, level] of levels(make)) if (name.includes(only)) bench(name, level, bare)
} finally {
  rmSync(folder, { recursive: true, force: true })
}

/** The levels, by name: a file, or the text of one. */
function levels(make) {
  const rooms = (count, interactables, company) =>
    make.manyRooms({ rooms: count, interactables, seed: 1, ...(company ? { company } : {}) })
  return [
    ['tide mill', { file: `${root}examples/levels/tide-mill.level.yaml` }],
    ['six levels of a project', { file: sixLevels() }],
    ['tide mill, draft', { file: `${root}examples/levels/tide-mill-draft.level.yaml` }],
    ...[10, 20, 40, 100].map((doors) => [`${String(doors)} doors`, { text: make.doorsAlongCorridor(doors) }]),
    ...[10, 50, 100].map((chests) => [`${String(chests)} chests`, { text: make.chestsInHall(chests) }]),
    ['20 rooms, 50 interactables', { text: rooms(20, 50) }],
    ['40 rooms, 100 interactables', { text: rooms(40, 100) }],
    ['80 rooms, 200 interactables', { text: rooms(80, 200) }],
    ['40 rooms, with company', { text: rooms(40, 100, true) }],
    ['doors in time', { text: make.doorsInTime() }],
    ['many situations', { text: make.manySituations(12) }],
    ['a tangle', { text: make.tangled(24) }],
  ]
}

/** The project round the mill twice over: six levels with 120 interactables. */
function sixLevels() {
  const from = `${root}examples/levels/round-the-mill/`
  const project = readFileSync(`${from}round-the-mill.project.yaml`, 'utf8')
  const members = [...project.matchAll(/^ {2}([\w-]+): \{? ?file: ([\w.-]+)/gm)].map(([, name, file]) => ({
    name,
    file,
  }))
  const copies = ['one', 'two'].flatMap((copy) => members.map((member) => ({ ...member, copy })))
  const last = members.at(-1).name
  const texts = members.map(({ file }) => readFileSync(from + file, 'utf8'))
  const items = [...new Set(texts.flatMap((text) => Object.keys(parse(text).items ?? {})))]
  for (const { copy, name: own, file } of copies) {
    // From the last level one goes on in the other copy, where everything is made of other items.
    const other = own === last ? { one: 'two', two: 'one' }[copy] : copy
    const linked = members.reduce(
      (all, { name }) => all.replaceAll(`level: ${name} `, `level: ${name}-${other} `),
      readFileSync(from + file, 'utf8'),
    )
    const text = items.reduce(
      (all, item) => (copy === 'one' ? all : all.replace(new RegExp(`(?<![\\w-])${item}(?![\\w-])`, 'g'), `${item}-b`)),
      linked,
    )
    writeFileSync(join(folder, `${copy}-${file}`), text)
  }
  const path = join(folder, 'six.project.yaml')
  const lines = copies.map(({ name, copy, file }) => `  ${name}-${copy}: { file: ${copy}-${file} }`)
  writeFileSync(
    path,
    ['project: 1', 'title: Six levels', `start: ${members[0].name}-one`, 'levels:', ...lines, ''].join('\n'),
  )
  return path
}

function bench(name, { file, text }, bare) {
  const path = file ?? join(folder, 'bench.level.yaml')
  if (text) writeFileSync(path, text)
  const all = Array.from({ length: runs }, () => timed([main, 'check', '--format', 'json', path]))
  const seconds = median(all.map((run) => run.seconds))
  const questions = JSON.parse(all[0].output).flatMap((report) => report.questions)
  const undecided = questions.filter(({ answer }) => answer === 'undecided').length
  const megabytes = Math.max(...all.map((run) => run.kilobytes)) / 1024
  const cells = [seconds.toFixed(2), (seconds / bare).toFixed(0), megabytes.toFixed(0)]
  line(name, ...cells, String(questions.length), String(undecided))
}

/** Makes levels; read through the public path, as any level is. */
async function generator() {
  const source = readFileSync(`${root}bench/levels.ts`, 'utf8')
  const compilerOptions = { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 }
  const module = join(folder, 'levels.mjs')
  writeFileSync(module, ts.transpileModule(source, { compilerOptions }).outputText)
  return await import(pathToFileURL(module).href)
}

/** Runs node, and gives the seconds that it took, what it printed, and the most memory that it had. */
function timed(args) {
  const telling =
    'import { writeSync } from "node:fs"; process.on("exit", () => writeSync(3, String(process.resourceUsage().maxRSS)))'
  const since = performance.now()
  const { stdout, output } = spawnSync(
    process.execPath,
    ['--import', `data:text/javascript,${encodeURIComponent(telling)}`, ...args],
    { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore', 'pipe'], maxBuffer: 1 << 28 },
  )
  return { seconds: (performance.now() - since) / 1000, output: stdout, kilobytes: Number(output[3]) }
}

function median(numbers) {
  return [...numbers].sort((a, b) => a - b)[Math.floor(numbers.length / 2)]
}

function line(name, ...cells) {
  console.log(name.padEnd(30) + cells.map((cell) => cell.padStart(11)).join(''))
}
