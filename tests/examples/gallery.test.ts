import { describe, expect, test } from '@jest/globals'
import { readdirSync } from 'node:fs'
import { checkNow } from '../../src/findings/index.ts'
import { type Expanded, expandLevel, readLevel } from '../../src/interactables/index.ts'
import {
  Journey,
  makeStage,
  projectProblems,
  readProject,
  readWalkthrough,
  runWalkthrough,
  type Stage,
  startsOf,
} from '../../src/play/index.ts'
import { project, textOf } from '../levels.ts'

const folder = 'examples/levels/gallery/'
const files = readdirSync(project + folder)
const levels = files.filter((file) => file.endsWith('.level.yaml'))
const walkthroughs = files.filter((file) => file.endsWith('.walkthrough.yaml'))
const projects = files.filter((file) => file.endsWith('.project.yaml'))

const rows = [...textOf('docs/types.md').matchAll(/^\| (.+?) \| `([a-z0-9-]+)` \| \[.*?\]\(\.\.\/(.*?)\) \|$/gm)]
const features = rows.map(([, what, id, file]) => ({ what: what!, id: id!, file: file!.replace(folder, '') }))

/** The texts of all files in the gallery, with some of them changed. */
type Texts = (file: string) => string
const asWritten: Texts = (file) => textOf(folder + file)

function stageOf(text: string): Stage {
  const reading = readLevel(text)
  if (!reading.value) throw new Error(JSON.stringify(reading.diagnostics.map(({ message }) => message)))
  return makeStage(expandLevel(reading.value, reading.source))
}

interface Opened {
  readonly levels: Expanded[]
  readonly starts: string[]
  readonly begin: (start: string | undefined) => Stage | Journey
  /** What keeps it from being played. */
  readonly told: string[]
}

/** What is played with the walkthroughs of a name: a level, or a project. */
function opened(name: string, texts: Texts): Opened {
  const projectFile = `${name}.project.yaml`
  if (!projects.includes(projectFile)) {
    const stage = stageOf(texts(`${name}.level.yaml`))
    return { levels: [stage.expanded], starts: [], begin: () => stage, told: [] }
  }
  const reading = readProject(texts(projectFile), projectFile)
  const stages = Object.fromEntries(
    Object.entries(reading.value!.levels).map(([level, { file }]) => [level, stageOf(texts(file))]),
  )
  const expanded = Object.fromEntries(Object.entries(stages).map(([level, stage]) => [level, stage.expanded]))
  return {
    levels: Object.values(expanded),
    starts: Object.keys(startsOf(reading.value!)),
    begin: (start) => new Journey(reading.value!, stages, start),
    told: projectProblems(reading, expanded).map(({ message }) => message),
  }
}

/** What fails when both walkthroughs of a name are played, the second only where the first goes; a step that names what is not there fails too. */
function failures(name: string, texts: Texts): string[] {
  const { levels, starts, begin, told } = opened(name, texts)
  if (told.length > 0) return told
  const failing = (way: string): string[] => {
    const file = `${name}.${way}.walkthrough.yaml`
    const walkthrough = readWalkthrough(texts(file), file, ...levels)
    if (!walkthrough.value) return walkthrough.diagnostics.map(({ message }) => message)
    const { start } = walkthrough.value
    if (start !== undefined && !starts.includes(start)) return [`there is no start ${start}`]
    const { steps } = runWalkthrough(begin(start), walkthrough.value, walkthrough.source)
    return steps.flatMap(({ failure, place }) => (failure === null ? [] : [`${way}:${String(place.line)} ${failure}`]))
  }
  const first = failing('wrong-way')
  return first.length > 0 ? first : failing('right-way')
}

/** The walkthroughs that a level or a project file is played with: its own, or those of its project. */
function playedAs(file: string): string {
  const own = file.replace(/\.(level|project|(right|wrong)-way\.walkthrough)\.yaml$/, '')
  if (files.includes(`${own}.right-way.walkthrough.yaml`)) return own
  const of = projects.find((one) => asWritten(one).includes(`file: ${file}`))
  return of!.replace('.project.yaml', '')
}

describe('each level of the gallery', () => {
  for (const name of new Set([...levels, ...projects].map(playedAs))) {
    test(`${name}: both walkthroughs go as written`, () => {
      expect(failures(name, asWritten)).toEqual([])
    })
  }

  for (const file of levels) {
    test(`${file}: nothing is found, and nothing is open`, () => {
      const { value, source } = readLevel(asWritten(file), file)
      const { findings, questions } = checkNow(value!, source)
      expect(findings.map(({ rule, message }) => `${rule}: ${message}`)).toEqual([])
      expect(questions.filter(({ answer }) => answer === 'undecided')).toEqual([])
    })
  }
})

describe('each row of the feature matrix', () => {
  test('is read, and every marked line of the gallery has a row', () => {
    expect(features.length).toBeGreaterThan(90)
    const marked = [...levels, ...projects, ...walkthroughs].flatMap((file) =>
      [...asWritten(file).matchAll(/# (\[.*\])$/gm)].flatMap(([, marks]) =>
        marks!.split(' ').map((mark) => `${file} ${mark.slice(1, -1)}`),
      ),
    )
    const inMatrix = features.map(({ id, file }) => `${file} ${id}`)
    expect([...new Set(marked)].sort()).toEqual([...inMatrix].sort())
  })

  for (const { what, id, file } of features) {
    test(`${what}: a walkthrough fails without its lines`, () => {
      const lines = asWritten(file).split('\n')
      const without = lines.filter((line) => !new RegExp(`# .*\\[${id}\\]`).test(line))
      expect(without.length).toBeLessThan(lines.length)
      const texts: Texts = (other) => (other === file ? without.join('\n') : asWritten(other))
      expect(failures(playedAs(file), texts)).not.toEqual([])
    })
  }
})
