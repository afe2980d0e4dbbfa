import { readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { build } from '../build.mjs'
import { root } from '../run.mjs'
import { mistakes, mistakesInSpace, pathOf, wordsOf } from './edits.mjs'
import { isHarmless, judged } from './judge.mjs'

export { graphOf, judged } from './judge.mjs'
export { isSamePlay } from './same-play.mjs'

const page = 'docs/seeded-mistakes.md'
const singles = 600
const doubles = 200
const spatial = 200
const seed = Number(process.env.ZINTEL_SEED ?? 20_416)

/**
 * All spoiled levels that are tried: single mistakes, then two at a time, then mistakes in space and time. Each has the level's file, the text that comes of it, and what was
 * done. In order, always the same.
 */
export async function seededMistakes() {
  const { readLevel } = await import(pathToFileURL(`${root}dist/yaml.js`).href)
  const { edited } = await import(pathToFileURL(`${root}dist/model/index.js`).href)
  const random = seeded(seed)
  const read = levels().map((file) => ({ file, ...readLevel(readFileSync(root + file, 'utf8'), file) }))
  const pooled = (of) =>
    read.map(({ file, value, source }) => {
      const byKind = new Map()
      const seen = new Set([source.text])
      for (const { kind, does, edit, about = [] } of of(value)) {
        const text = edited(source, edit)
        if (text === null || seen.has(text)) continue
        seen.add(text)
        const mistake = { kind, does, edit, path: pathOf(edit), words: [...wordsOf(value, edit), ...about] }
        byKind.set(kind, [...(byKind.get(kind) ?? []), { file, kind, does, text, mistakes: [mistake] }])
      }
      return [...byKind.values()].map((all) => shuffled(all, random))
    })
  const pools = pooled(mistakes)
  // One level after the other gives one of each kind in turn, so that no level and no kind has too many.
  const turns = pools.map(() => 0)
  const drawn = (level) => pools[level][turns[level]++ % pools[level].length].pop()
  const chosen = []
  while (chosen.length < singles) {
    for (const level of pools.keys()) {
      const share = level === 0 ? 4 : 1
      for (let n = 0; n < share && chosen.length < singles; n++) {
        const next = drawn(level)
        if (next) chosen.push(next)
      }
    }
  }
  while (chosen.length < singles + doubles) {
    for (const level of pools.keys()) {
      const both = chosen.length < singles + doubles ? together(drawn(level), drawn(level)) : null
      if (both) chosen.push(both)
    }
  }
  const inSpace = pooled(mistakesInSpace)
  const next = inSpace.map(() => 0)
  const whole = chosen.length + spatial
  for (let round = 0; chosen.length < whole && round < 100; round++) {
    for (const [level, kinds] of inSpace.entries()) {
      const one =
        kinds.length > 0 && chosen.length < whole ? kinds[(level + next[level]++) % kinds.length].pop() : undefined
      if (one) chosen.push(one)
    }
  }
  return chosen

  /** Two mistakes in one level; null where they cannot be had together, or one alone cannot be read. */
  function together(one, other) {
    if (!one || !other || !readLevel(other.text, other.file).value) return null
    const { value, source } = readLevel(one.text, one.file)
    const text = value ? edited(source, other.mistakes[0].edit) : null
    if (text === null || text === one.text || text === other.text) return null
    const { file } = one
    const does = `${one.does}; ${other.does}`
    return { file, kind: 'double', does, text, mistakes: [...one.mistakes, ...other.mistakes], apart: [one, other] }
  }
}

/** The demo, the levels of the gallery (not the largest, which takes as long as all others), and those of everyday idioms. */
function levels() {
  const all = ['gallery', 'idioms'].flatMap((folder) =>
    readdirSync(`${root}examples/levels/${folder}`).map((file) => `examples/levels/${folder}/${file}`),
  )
  const names = all.filter((file) => file.endsWith('.level.yaml') && !file.includes('/company')).sort()
  return ['examples/levels/tide-mill.level.yaml', ...names]
}

/**
 * The verdict over a spoiled level, with `harmless` for what changes nothing that happens or is perceived. Of two mistakes only those count
 * that are not harmless alone.
 */
export async function verdictOn(spoiled) {
  const verdict = await judged(spoiled)
  if (verdict.outcome === 'told on reading') return verdict
  const harmless = []
  for (const one of spoiled.apart ?? [spoiled]) harmless.push((await isHarmless(one)) === true)
  if (harmless.every(Boolean)) return { ...verdict, outcome: 'harmless' }
  if (!spoiled.apart) return verdict
  const counting = verdict.named.filter((_, i) => !harmless[i])
  const named = counting.filter(Boolean).length
  const outcome = named === counting.length ? 'named' : named > 0 ? 'one named' : verdict.outcome
  return { ...verdict, outcome, each: { named, of: counting.length } }
}

/** Why a mistake that is not found is not, or what will find it; null where nobody has said. */
export function explained(mistake) {
  const all = JSON.parse(readFileSync(`${root}scripts/seeded-mistakes/reasons.json`, 'utf8'))
  const about = `${levelOf(mistake)} ${mistake.does}`
  return all.find(({ is }) => new RegExp(is).test(about)) ?? null
}

function levelOf({ file }) {
  return file.replace(/^.*\//, '').replace('.level.yaml', '')
}

/** The line of the table for one of them. */
export function line(mistake, { outcome, rules }, number) {
  const isOpen = outcome === 'missed' || outcome === 'undecided'
  const why = isOpen ? (explained(mistake)?.why ?? 'NOT EXPLAINED') : rules.join(', ')
  return `| ${number} | ${levelOf(mistake)} | ${mistake.does} | ${outcome} | ${why} |`
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

/** How many of some verdicts have which outcome, as a sentence with the share that is named of those that are not harmless. */
function summary(verdicts) {
  const counts = {}
  for (const { outcome } of verdicts) counts[outcome] = (counts[outcome] ?? 0) + 1
  const count = (outcome) => counts[outcome] ?? 0
  const harmful = verdicts.length - count('harmless')
  const share = (n) => `${((100 * n) / harmful).toFixed(1)} %`
  const named = count('named') + count('told on reading')
  const each = verdicts.flatMap((one) => one.each ?? [])
  const sum = (key) => each.reduce((total, one) => total + one[key], 0)
  const single =
    each.length === 0
      ? ''
      : ` Of the ${sum('of')} mistakes in them that are not harmless, each by itself, ${((100 * sum('named')) / sum('of')).toFixed(1)} % are named.`
  const parts = Object.entries(counts).map(([outcome, n]) => `- ${outcome}: ${n}`)
  const of = `Of the ${harmful} that are not harmless, ${share(named)} are named or told on reading, ${share(count('symptom'))} are blamed elsewhere.${single}`
  return `${parts.sort().join('\n')}\n\n${of}`
}

async function main() {
  await build()
  const all = await seededMistakes()
  const verdicts = []
  for (const mistake of all) {
    verdicts.push(await verdictOn(mistake))
    if (process.stderr.isTTY) process.stderr.write(`\r${verdicts.length} of ${all.length}`)
  }
  const lines = all.map((mistake, i) => line(mistake, verdicts[i], i + 1))
  const outcomes = ['named', 'one named', 'symptom', 'missed', 'undecided', 'harmless', 'told on reading']
  const kinds = [...new Set(all.map(({ kind }) => kind))]
  const kindLines = kinds.map((kind) => {
    const own = verdicts.filter((_, i) => all[i].kind === kind)
    return `| ${kind} | ${outcomes.map((one) => own.filter(({ outcome }) => outcome === one).length).join(' | ')} |`
  })
  const text = `# Seeded mistakes

Six hundred single mistakes and two hundred times two at once, made by a seeded script (\`npm run seeded-mistakes\`) in the demo, the levels of the
gallery and those of everyday idioms: a line dropped, a name misspelt or swapped with another, a range shrunk, a thing moved out of its room, an item
consumed instead of kept, feedback removed, a condition turned round. Each spoiled level is checked by itself; one of a project with the other levels of that.

Single mistakes:

${summary(verdicts.slice(0, singles))}

Two at once:

${summary(verdicts.slice(singles, singles + doubles))}

Two hundred more, in space and time: a thing put where another is, or too high; a range that goes through walls, is measured from the wrong point, or
wants one to stand behind it; a leaf that hardly opens, a door that shuts at once; a doorway that is too narrow, a crate beside one.

${summary(verdicts.slice(singles + doubles))}

Told on reading: the level cannot be used, and the reader says why. Named: one of the first three findings, or a change that it proposes, is at the place
of the mistake or at its counterpart (where the same name stands); of two mistakes, each of those that are not harmless. One named: only one of two is.
Symptom: something is found, elsewhere. Missed: nothing is found; the last column says why. Undecided: nothing is found, but something could not be settled.
Harmless: the same can happen, and be perceived, in the same order, times and spots aside. That is compared by exploring both levels; where one is too
large for it, the mistake counts as harmful.

| | ${outcomes.join(' | ')} |
| --- |${outcomes.map(() => ' --- |').join('')}
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
  const parts = [
    verdicts.slice(0, singles),
    verdicts.slice(singles, singles + doubles),
    verdicts.slice(singles + doubles),
  ]
  console.log(parts.map(summary).join('\n\n'))
  if (unexplained.length > 0) console.log(`Without an explanation:\n${unexplained.join('\n')}`)
  process.exitCode = unexplained.length > 0 ? 1 : 0
}

if (import.meta.url === pathToFileURL(process.argv[1] ?? '').href) await main()
