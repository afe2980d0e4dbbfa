import { readFileSync } from 'node:fs'
import { pathToFileURL } from 'node:url'
import { root } from '../run.mjs'
import { partAt } from './edits.mjs'
import { happenings, isSamePlay } from './same-play.mjs'

const library = (file) => import(pathToFileURL(`${root}dist/${file}`).href)

/** So many situations of a level are compared with those of what was made of it. */
const mostCompared = 60_000

/**
 * What a check finds in a level with mistakes, and then in the other levels of its project, if it has one. `named` says of each mistake whether one of the first three findings, or a change that it
 * proposes, is at its place or at its counterpart.
 */
export async function judged({ file, text, mistakes }) {
  const { checkNow, checkProject } = await library('index.js')
  const zintel = await library('yaml.js')
  const reading = zintel.readLevel(text, file)
  if (!reading.value) return { outcome: 'told on reading', rules: [reading.diagnostics[0].code], named: [] }
  const budget = { budget: 400_000 }
  const around = surroundings(file, reading, zintel)
  const reports = around
    ? Object.entries(ended(checkProject(around.project, around.levels, budget)))
        .sort(([a], [b]) => Number(b === around.level) - Number(a === around.level))
        .map(([, report]) => report)
    : [checkNow(reading, budget)]
  const findings = reports.flatMap((report) => report.findings)
  const rules = [...new Set(findings.map(({ rule }) => rule))]
  const named = mistakes.map((mistake) =>
    findings.slice(0, 3).some((finding) => names(finding, mistake, reading.value)),
  )
  if (named.some(Boolean)) return { outcome: 'named', rules, named }
  if (rules.length > 0) return { outcome: 'symptom', rules, named }
  return { outcome: reports[0].counts.undecided > 0 ? 'undecided' : 'missed', rules, named }
}

/** Runs work to its end. */
function ended(work) {
  for (;;) {
    const { done, value } = work.next()
    if (done) return value
  }
}

const graphs = new Map()

/**
 * Whether the same can happen, and be perceived, in the same order, in a level with mistakes as in the level itself: times and spots aside.
 * Null where there are too many situations to compare.
 */
export async function isHarmless({ file, text }) {
  if (!graphs.has(file)) graphs.set(file, await graphOf(readFileSync(root + file, 'utf8'), file, new Map()))
  const before = graphs.get(file)
  const after = before && (await graphOf(text, file, before.labels))
  return before && after ? isSamePlay(before, after) : null
}

/** What can happen in a level, as a graph; null where it cannot be read, or is too large. */
export async function graphOf(text, file, labels) {
  const { readLevel } = await library('yaml.js')
  const { expandLevel } = await library('interactables/index.js')
  const { makeStage, reasonsFor, refusalFeedback } = await library('play/index.js')
  const { unmetParts } = await library('machine/index.js')
  const { Search } = await library('explore/search.js')
  const { moveKind } = await library('explore/successors.js')
  const { eachPress } = await library('explore/inputs.js')
  const { isOffered } = await library('machine/index.js')
  const { value, source } = readLevel(text, file)
  if (!value) return null
  const refusalOf = (placed, transition, unmet) =>
    refusalFeedback(placed, transition, reasonsFor(transition, unmet)).entries
  const tools = { Search, moveKind, eachPress, isOffered, refusalOf, unmetParts }
  return happenings(makeStage(expandLevel(value, source)), labels, mostCompared, tools)
}

/** Whether a finding, or a change that it proposes, is at the place of a mistake, or at its counterpart. */
function names(finding, { path, words }, value) {
  const places = [finding.place?.path, finding.fix.edit?.path, ...finding.tried.map(({ edit }) => edit.path)]
  const [group, type] = path.split('.')
  const isWord = (word) => words.includes(word)
  const isThere = (place) =>
    partOf(place) === partOf(path) ||
    place.split('.').some(isWord) ||
    words.some((word) => JSON.stringify(partAt(value, place) ?? null).includes(`"${word}"`)) ||
    // What is wrong with a type is wrong with its instances.
    (group === 'types' && partAt(value, place.split('.').slice(0, 2).join('.'))?.type === type)
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
