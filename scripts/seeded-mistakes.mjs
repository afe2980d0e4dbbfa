import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { build } from './build.mjs'
import { root } from './run.mjs'

const page = 'docs/seeded-mistakes.md'
const count = 600
const seed = Number(process.env.ZINTEL_SEED ?? 20_416)

/** All single mistakes that are tried: a level, what is done to it, and the text that comes of it. In order, always the same. */
export async function seededMistakes() {
  const { readLevel } = await import(pathToFileURL(`${root}dist/yaml.js`).href)
  const { edited } = await import(pathToFileURL(`${root}dist/model/index.js`).href)
  const random = seeded(seed)
  const pools = levels().map((file) => {
    const { value, source } = readLevel(readFileSync(root + file, 'utf8'), file)
    const byKind = new Map()
    const seen = new Set([source.text])
    for (const { kind, does, edit } of mistakes(value)) {
      const text = edited(source, edit)
      if (text === null || seen.has(text)) continue
      seen.add(text)
      const known = byKind.get(kind) ?? []
      byKind.set(kind, [...known, { file, kind, does, text, path: pathOf(edit), words: wordsOf(value, edit) }])
    }
    return [...byKind.values()].map((all) => shuffled(all, random))
  })
  // One level after the other gives one of each kind in turn, so that no level and no kind has too many.
  const chosen = []
  const turns = pools.map(() => 0)
  while (chosen.length < count) {
    for (const [i, pool] of pools.entries()) {
      const share = i === 0 ? 4 : 1
      for (let n = 0; n < share && chosen.length < count; n++) {
        const kind = pool[turns[i]++ % pool.length]
        const next = kind?.pop()
        if (next) chosen.push(next)
      }
    }
  }
  return chosen
}

/** The demo, the levels of the gallery (not the largest, which takes as long as all others), and those of everyday idioms. */
function levels() {
  const all = ['gallery', 'idioms'].flatMap((folder) =>
    readdirSync(`${root}examples/levels/${folder}`).map((file) => `examples/levels/${folder}/${file}`),
  )
  const names = all.filter((file) => file.endsWith('.level.yaml') && !file.includes('/company')).sort()
  return ['examples/levels/tide-mill.level.yaml', ...names]
}

/** The path of what an edit changes. */
function pathOf(edit) {
  return edit.do === 'add' ? `${edit.path}.${edit.key}` : edit.path
}

/** The words that an edit takes out or puts in: the other places where they stand are its counterparts. */
function wordsOf(value, edit) {
  const keys = edit.path.split('.')
  const words = new Set(keys.length === 2 || keys.at(-2) === 'states' ? [keys.at(-1)] : [])
  const collect = (_key, part) => {
    if (typeof part === 'string') words.add(part)
    return part
  }
  JSON.stringify(partAt(value, edit.path) ?? null, collect)
  JSON.stringify(edit.value ?? null, collect)
  return [...words]
}

function partAt(value, path) {
  return path.split('.').reduce((part, key) => part?.[key], value)
}

/** What can be done wrong in one place of a level. */
function mistakes(level) {
  const all = []
  const add = (kind, does, edit) => all.push({ kind, does, edit })
  const items = Object.keys(level.items ?? {})
  const names = Object.keys(level.interactables ?? {})
  walk(level, '', (path, key, value) => {
    const at = path.split('.')
    const isInside = at[0] === 'interactables' || at[0] === 'types'
    if (isInside && at.length >= 4 && !['at', 'turn'].includes(key) && typeof value !== 'number') {
      add('drop', `drop ${path}`, { do: 'remove', path })
    }
    if (key !== 'title' && typeof value === 'string' && isName(value) && isReference(at, key, value, items, names)) {
      add('misspell', `${path}: ${value} -> ${misspelt(value)}`, { do: 'replace', path, value: misspelt(value) })
      const kin = items.includes(value) ? items : names.includes(value) ? names : []
      const other = kin[(kin.indexOf(value) + 1) % Math.max(1, kin.length)]
      if (other !== undefined && other !== value) {
        add('swap', `${path}: ${value} -> ${other}`, { do: 'replace', path, value: other })
      }
    }
    if (value === 'keep') add('consume', `${path}: keep -> consume`, { do: 'replace', path, value: 'consume' })
    if (key === 'count' && typeof value === 'number') {
      add('count', `${path}: ${value} -> ${value + 1}`, { do: 'replace', path, value: value + 1 })
    }
    if (key === 'is' && typeof value === 'string') {
      const other = { open: 'closed', closed: 'open', on: 'off', off: 'on', turned: 'empty', taken: 'available' }[value]
      if (other) add('other-way-round', `${path}: ${value} -> ${other}`, { do: 'replace', path, value: other })
    }
    if (key === 'at-least')
      add('other-way-round', `${path}: at-least -> at-most`, { do: 'rename', path, name: 'at-most' })
    if (key === 'feedback' || /\.feedback\.\w+$/.test(path)) {
      add('feedback', `drop ${path}`, { do: 'remove', path })
    }
    if (key === 'message' && items.length > 1) {
      const last = items.at(-1)
      const title = level.items[last].title ?? last
      add('message', `${path}: speaks of the ${title}`, { do: 'replace', path, value: `No ${title}.` })
    }
    if (key === 'blocks' && at[0] === 'types') add('blocks', `${path}: nothing`, { do: 'replace', path, value: [] })
    if (key === 'after' && typeof value === 'number') {
      add('time', `${path}: ${value} -> 0.05`, { do: 'replace', path, value: 0.05 })
    }
  })
  for (const [name, instance] of Object.entries(level.interactables ?? {})) {
    const path = `interactables.${name}`
    if (instance.range === undefined && instance.at) {
      add('range', `${path}: a range of 0.2 m`, { do: 'add', path, key: 'range', value: { radius: 0.2 } })
    }
    if (instance.at) {
      const moved = [instance.at[0] + 40, instance.at[1], ...instance.at.slice(2)]
      add('move', `${path}: 40 m to the east`, { do: 'replace', path: `${path}.at`, value: moved })
    }
    if (instance.in) add('initial', `${path}: initial open`, { do: 'add', path, key: 'initial', value: 'open' })
    add('instance', `drop ${path}`, { do: 'remove', path })
  }
  return all
}

/** Calls for every entry of maps and lists, outer before inner. */
function walk(value, path, visit) {
  if (typeof value !== 'object' || value === null) return
  for (const [key, inner] of Object.entries(value)) {
    const at = path === '' ? key : `${path}.${key}`
    visit(at, key, inner)
    walk(inner, at, visit)
  }
}

function isName(value) {
  return /^[a-z][a-z0-9-]*$/.test(value)
}

/** Whether a text is a name that is looked up: of an item, an interactable, a signal, a state. */
function isReference(at, key, value, items, names) {
  if (items.includes(value) || names.includes(value)) return true
  return ['signal', 'send', 'sends', 'from', 'to', 'set', 'flag', 'counter', 'enter', 'leave'].includes(key)
}

function misspelt(name) {
  const turned = name.slice(0, 2) + name[3] + name[2] + name.slice(4)
  return name.length > 3 && turned !== name ? turned : `${name}x`
}

/** What a check finds in a spoiled level that it does not find in the level itself. */
export async function judged(mistake) {
  const { file, text } = mistake
  const { checkNow } = await import(pathToFileURL(`${root}dist/index.js`).href)
  const zintel = await import(pathToFileURL(`${root}dist/yaml.js`).href)
  const reading = zintel.readLevel(text, file)
  if (!reading.value) return { outcome: 'told on reading', rules: [reading.diagnostics[0].code] }
  const report = checkNow(reading, { budget: 400_000, project: surroundings(file, reading, zintel) })
  const rules = [...new Set(report.findings.map(({ rule }) => rule))]
  const isNamed = report.findings.slice(0, 3).some((finding) => names(finding, mistake, reading.value))
  if (rules.length > 0) return { outcome: isNamed ? 'named' : 'symptom', rules }
  return { outcome: report.counts.undecided > 0 ? 'undecided' : 'missed', rules: [] }
}

/** Whether a finding, or a change that it proposes, is at the place of a mistake, or at its counterpart. */
function names(finding, { path, words }, value) {
  const places = [finding.place?.path, finding.fix.edit?.path, ...finding.tried.map(({ edit }) => edit.path)]
  const isWord = (word) => words.includes(word)
  const isThere = (place) =>
    partOf(place) === partOf(path) ||
    place.split('.').some(isWord) ||
    words.some((word) => JSON.stringify(partAt(value, place) ?? null).includes(`"${word}"`))
  return places.some((place) => place && isThere(place)) || finding.message.split(/[^\w-]+/).some(isWord)
}

/** The instance, the goal, the transition or the state of a type that a path is in. */
function partOf(path) {
  const keys = path.split('.')
  return keys.slice(0, keys[0] === 'types' ? 4 : 2).join('.')
}

/** The project that a level belongs to, with the level as it is spoiled; nothing where it belongs to none. */
function surroundings(file, spoiled, { readLevel, readProject }) {
  const folder = 'examples/levels/gallery/'
  const project = readProject(readFileSync(`${root}${folder}crossing.project.yaml`, 'utf8'), null).value
  const level = Object.keys(project.levels).find((name) => folder + project.levels[name].file === file)
  if (level === undefined) return undefined
  const levels = Object.fromEntries(
    Object.entries(project.levels).map(([name, { file: other }]) => {
      return [name, name === level ? spoiled : readLevel(readFileSync(`${root}${folder}${other}`, 'utf8'), other)]
    }),
  )
  return { project, level, levels }
}

/** Why a mistake that is not found does no harm, or what will find it; null where nobody has said. */
export function explained(mistake) {
  const all = JSON.parse(readFileSync(`${root}scripts/seeded-mistakes.json`, 'utf8'))
  const about = `${mistake.file.replace(/^.*\//, '').replace('.level.yaml', '')} ${mistake.does}`
  return all.find(({ is }) => new RegExp(is).test(about)) ?? null
}

/** The line of the table for one of them. */
export function line(mistake, { outcome, rules }, number) {
  const level = mistake.file.replace(/^.*\//, '').replace('.level.yaml', '')
  const why =
    outcome === 'missed' || outcome === 'undecided' ? (explained(mistake)?.why ?? 'NOT EXPLAINED') : rules.join(', ')
  return `| ${number} | ${level} | ${mistake.does} | ${outcome} | ${why} |`
}

/** A generator of numbers from 0 to 1 (after mulberry32, by Ettinger 2017). */
function seeded(start) {
  let state = start
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296
  }
}

function shuffled(all, random) {
  const rest = [...all]
  return all.map(() => rest.splice(Math.floor(random() * rest.length), 1)[0])
}

async function main() {
  await build()
  const all = await seededMistakes()
  const lines = []
  const counts = {}
  const kinds = new Map()
  for (const [i, mistake] of all.entries()) {
    const verdict = await judged(mistake)
    counts[verdict.outcome] = (counts[verdict.outcome] ?? 0) + 1
    const row = kinds.get(mistake.kind) ?? {}
    kinds.set(mistake.kind, { ...row, [verdict.outcome]: (row[verdict.outcome] ?? 0) + 1 })
    lines.push(line(mistake, verdict, i + 1))
    if (process.stderr.isTTY) process.stderr.write(`\r${i + 1} of ${all.length}`)
  }
  const outcomes = ['named', 'symptom', 'missed', 'undecided', 'told on reading']
  const kindLines = [...kinds].map(
    ([kind, row]) => `| ${kind} | ${outcomes.map((outcome) => row[outcome] ?? 0).join(' | ')} |`,
  )
  const text = `# Seeded mistakes

Six hundred single mistakes, made by a seeded script (\`npm run seeded-mistakes\`) in the demo, the levels of the gallery and those of everyday
idioms: a line dropped, a name misspelt or swapped with another, a range shrunk, a thing moved out of its room, an item spent instead of kept, feedback
removed, a condition turned round. Each spoiled level is checked by itself.

${Object.entries(counts)
  .map(([outcome, n]) => `- ${outcome}: ${n}`)
  .join('\n')}

Told on reading: the level cannot be used, and the reader says why. Named: one of the first three findings, or a change that it proposes, is at the place
of the mistake or at its counterpart (where the same name stands). Symptom: something is found, elsewhere. Missed: nothing is found; the last column
says why that is harmless, or what is still to come. Undecided: nothing is found, but something could not be settled.

| | named | symptom | missed | undecided | told on reading |
| --- | --- | --- | --- | --- | --- |
${kindLines.join('\n')}

In single:

| | level | what was done | outcome | found by, or why not |
| --- | --- | --- | --- | --- |
${lines.join('\n')}
`
  const prettier = await import('prettier')
  const options = await prettier.resolveConfig(root + page)
  writeFileSync(root + page, await prettier.format(text, { ...options, parser: 'markdown' }))
  const unexplained = lines.filter((one) => one.includes('NOT EXPLAINED'))
  console.log(`${JSON.stringify(counts)}; ${unexplained.length} misses without an explanation.`)
  if (unexplained.length > 0) console.log(unexplained.join('\n'))
  process.exitCode = unexplained.length > 0 ? 1 : 0
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await main()
