import { expose } from 'comlink'
import {
  check,
  checkProject,
  type CheckOptions,
  describeInteractable,
  describeTypes,
  type Diagnostic,
  type FileReport,
  type InteractableSheet,
  LevelError,
  listInteractables,
  outlookOf,
  planGoals,
  type GoalPlans,
  type PreparedLevel,
  prepareLevel,
  type Progress,
  runInSlices,
  runWalkthrough,
  type TypeSheet,
} from 'zintel'
import { coveredGround, drawMachine, drawNeeds, drawPlan, planGrips, planShapes } from 'zintel/draw'
import { htmlText, numberedMarks, sarifText } from 'zintel/report'
import { version } from 'zintel/package.json'
import { readLevel, readProject, readWalkthrough } from 'zintel/yaml'
import { levelFor } from '../desk/desk.ts'
import { commonOf, kindOf, membersOf } from '../desk/files.ts'
import type { Files } from '../desk/history.ts'
import type { OwnType } from '../margin/Machine.tsx'
import type { Covered, LevelLook, Look, Problem, Spans } from './look.ts'

/** How a check is to be made. */
export interface CheckWish {
  readonly quick: boolean
  readonly grouping: boolean
  /** Whether the levels of its project are explored with it, which takes longer: what hangs on them is left open else. */
  readonly together: boolean
}

/** What came of a walkthrough. */
export interface WalkthroughRun {
  readonly file: string
  readonly title: string
  readonly passed: boolean
  /** What failed, a line for each step. */
  readonly failures: readonly string[]
}

type Told = (progress: Progress) => void

/** What came of the last check of a project: all its levels are answered at once. */
let together: { readonly key: string; readonly reports: Readonly<Record<string, FileReport>> } | null = null
/** Which work is wanted: work with another number ends at its next pause. */
const wanted = { check: 0, cover: 0 }

/** What was read of each file: of those round a level, most stay as they were. */
const readings = new Map<string, { readonly key: string; readonly reading: ReturnType<typeof readLevel> }>()

function read(files: Files, file: string) {
  const key = JSON.stringify([files[file], commonOf(files, file)])
  const known = readings.get(file)
  if (known?.key === key) return known.reading
  const reading = readLevel(files[file] ?? '', file, commonOf(files, file))
  readings.set(file, { key, reading })
  return reading
}

function prepared(files: Files, file: string): PreparedLevel {
  const reading = read(files, file)
  const level = levels.get(reading) ?? prepareLevel(reading)
  levels.set(reading, level)
  return level
}

/** Levels that were read are spelt out once, however often they are asked about. */
const levels = new WeakMap<object, PreparedLevel>()

/** The project on the desk that a level belongs to, and the files of its levels; null where there is none that can be read. */
function around(files: Files, file: string) {
  for (const [name, text] of Object.entries(files)) {
    if (kindOf(name, text) !== 'project') continue
    const { value } = readProject(text, name)
    const members = value ? membersOf(name, value.levels) : []
    const own = members.find((one) => one.file === file)
    const isWhole = members.every((one) => Object.hasOwn(files, one.file) && read(files, one.file).value)
    if (value && own && isWhole) return { project: value, level: own.name, members }
  }
  return null
}

/** The same, as a check is told of it. */
function projectOf(files: Files, file: string): CheckOptions['project'] {
  const found = around(files, file)
  if (!found) return undefined
  const { project, level, members } = found
  return { project, level, levels: Object.fromEntries(members.map((one) => [one.name, prepared(files, one.file)])) }
}

/** Checks a level: by itself, or with the levels of its project where those are wanted, and there is one. */
function* checked(
  files: Files,
  file: string,
  isTogether: boolean,
  options: Omit<CheckOptions, 'project'>,
): Generator<Progress, FileReport> {
  const project = projectOf(files, file)
  if (!project || !isTogether) return yield* check(prepared(files, file), { ...options, project })
  const texts = around(files, file)!.members.map((one) => [one, files[one.file], commonOf(files, one.file)])
  const key = JSON.stringify([options, project.project, texts])
  if (together?.key !== key) together = { key, reports: yield* checkProject(project.project, project.levels, options) }
  return together.reports[project.level]!
}

/** The offset of a place in a text, and where the word there ends. */
function problemAt(text: string, { message, place, nearest }: Diagnostic): Problem {
  const said = nearest === null ? message : `${message} Did you mean "${nearest}"?`
  const { line, column } = place
  if (line === null || column === null) return { message: said, from: 0, to: 0, line: null, column: null }
  let from = 0
  for (let at = 1; at < line; at++) from = text.indexOf('\n', from) + 1
  from = Math.min(text.length, from + column - 1)
  const word = /^[^\s,\]}:]+/.exec(text.slice(from, from + 200))?.[0].length ?? 0
  return { message: said, from, to: Math.min(text.length, from + word), line, column }
}

const sections = ['rooms', 'doorways', 'obstacles', 'places', 'interactables', 'characters', 'items', 'goals', 'types']

const api = {
  /** What a file says. */
  look(files: Files, file: string): Look {
    const text = files[file] ?? ''
    const kind = kindOf(file, text)
    if (kind === 'project' || kind === 'walkthrough') {
      const { diagnostics } = kind === 'project' ? readProject(text, file) : walkthrough(files, file)
      return { file, kind, problems: diagnostics.map((one) => problemAt(text, one)), spans: {}, level: null }
    }
    if (kind === 'other' && text.trim() !== '') {
      const message = 'This is no level, project or walkthrough. A level begins with "zintel: 1".'
      return { file, kind, problems: [{ message, from: 0, to: 0, line: null, column: null }], spans: {}, level: null }
    }
    if (kind === 'common') return { file, kind, problems: [], spans: {}, level: null }
    const reading = read(files, file)
    const { source, value } = reading
    const problems = reading.diagnostics.map((one) => problemAt(text, one))
    if (!value) return { file, kind, problems, spans: {}, level: null }
    const spans: Record<string, readonly [number, number]> = {}
    for (const section of sections) {
      for (const name of Object.keys((value as unknown as Record<string, object | undefined>)[section] ?? {})) {
        const path = `${section}.${name}`
        const [key, span] = [source.keySpan(path), source.span(path)]
        if (key && span && !source.isElsewhere(path)) spans[path] = [key.start, span.end]
      }
    }
    try {
      const level = prepared(files, file)
      const lost = level.diagnostics.map((one) => problemAt(text, one))
      return {
        file,
        kind,
        problems: [...problems, ...lost],
        spans: spans satisfies Spans,
        level: levelLook(level, value, levelsAround(files, file)),
      }
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error)
      const found = error instanceof LevelError ? error.diagnostics.map((one) => problemAt(text, one)) : []
      const told = found.length > 0 ? found : [{ message, from: 0, to: 0, line: null, column: null }]
      return { file, kind, problems: [...problems, ...told], spans, level: null }
    }
  },

  /** What ranges cover, one after the other; null where something else was asked for meanwhile. */
  async cover(files: Files, file: string): Promise<Covered | null> {
    const own = ++wanted.cover
    const level = prepared(files, file)
    const covered: Record<string, Covered[string]> = {}
    for (const { name } of level.contents.interactables) {
      covered[name] = coveredGround(level, name)
      await pause()
      if (own !== wanted.cover) return null
    }
    return covered
  },

  /** What there is to say about one interactable. */
  describe(
    files: Files,
    file: string,
    name: string,
  ): { sheet: InteractableSheet; machine: string; own: OwnType | null } {
    const level = prepared(files, file)
    const sheet = describeInteractable(level, name)
    const type = read(files, file).value?.types?.[sheet.type]
    const own = type && { path: `types.${sheet.type}`, states: type.states ?? {}, transitions: type.transitions ?? [] }
    return { sheet, machine: drawMachine(level, name), own: own ?? null }
  },

  machine(files: Files, file: string, name: string, state: string | null): string {
    return drawMachine(prepared(files, file), name, state)
  },

  types(files: Files, file: string | null): readonly TypeSheet[] {
    try {
      return describeTypes(file === null ? null : prepared(files, file))
    } catch {
      return describeTypes()
    }
  },

  /** A report as one page, with the plan in it. */
  html(files: Files, file: string, report: FileReport): string {
    const plan = drawPlan(prepared(files, file), { marks: numberedMarks(report.findings) })
    return htmlText([report], { plans: new Map([[report.file, plan]]) })
  },

  sarif(report: FileReport): string {
    return sarifText([report], { version, exitCode: report.findings.length > 0 ? 1 : 0, pages: new Map() })
  },

  /** The plan as an SVG file. */
  plan(files: Files, file: string): string {
    return drawPlan(prepared(files, file))
  },

  /** Checks a level, with the project that it belongs to; null where it was stopped, or another check was asked for. */
  async check(files: Files, file: string, wish: CheckWish, told: Told): Promise<FileReport | null> {
    const own = ++wanted.check
    const { together: isTogether, ...options } = wish
    const work = checked(files, file, isTogether, options)
    const signal = {
      get aborted() {
        return own !== wanted.check
      },
    }
    let since = 0
    const outcome = await runInSlices(work, {
      signal,
      now: () => performance.now(),
      pause,
      onProgress: (progress) => {
        if (performance.now() - since < 250) return
        since = performance.now()
        told(progress)
      },
    })
    return outcome.done ? { ...outcome.value, file } : null
  },

  /**
   * What a check of a level hangs on: its own text, and what it sees of the other levels of its project; all of these, where they are explored
   * with it. As long as that is the same, so are the findings.
   */
  dependsOn(files: Files, file: string, isTogether: boolean): string {
    const found = around(files, file)
    const others = found ? found.members.filter((one) => one.file !== file) : []
    const project = found ? Object.keys(files).filter((name) => kindOf(name, files[name] ?? '') === 'project') : []
    return JSON.stringify([
      files[file],
      commonOf(files, file),
      project.map((name) => files[name]),
      others.map((one) =>
        isTogether ? [files[one.file], commonOf(files, one.file)] : outlookOf(read(files, one.file)),
      ),
    ])
  },

  /** Checks a level with the time to spare on the way to its goals; null where that cannot be done. */
  async checkOnce(files: Files, file: string): Promise<FileReport | null> {
    try {
      const work = checked(files, file, true, { quick: true, margins: true })
      const outcome = await runInSlices(work, { now: () => performance.now(), pause })
      return outcome.done ? outcome.value : null
    } catch {
      return null
    }
  },

  /** Plays every walkthrough on the desk that is for a level. */
  runWalkthroughs(files: Files, file: string): WalkthroughRun[] {
    return Object.keys(files)
      .filter((name) => kindOf(name, files[name] ?? '') === 'walkthrough')
      .map((name): WalkthroughRun => {
        const of = levelFor({ files, open: name }) ?? file
        try {
          const level = prepared(files, of)
          const { title, passed, steps } = runWalkthrough(level, readWalkthrough(files[name] ?? '', name, level))
          const failures = steps.flatMap(({ failure, text, place }) =>
            failure === null ? [] : [`Line ${String(place.line ?? '?')}, ${text}: ${failure}`],
          )
          return { file: name, title, passed, failures }
        } catch (error) {
          const why = error instanceof Error ? error.message : String(error)
          return { file: name, title: '', passed: false, failures: why.split('\n') }
        }
      })
  },

  /** Ends a check that goes on. */
  stop(): void {
    wanted.check++
  },

  /** How each goal can be met, and what that needs, as a drawing. */
  async needs(files: Files, file: string, goal: string): Promise<{ plan: GoalPlans; svg: string | null } | null> {
    const own = ++wanted.check
    const outcome = await runInSlices(planGoals(prepared(files, file), [goal]), {
      signal: {
        get aborted() {
          return own !== wanted.check
        },
      },
      now: () => performance.now(),
      pause,
    })
    const [plan] = outcome.done ? outcome.value : []
    return plan ? { plan, svg: plan.needs === null ? null : drawNeeds(goal, plan.needs) } : null
  },
}

function walkthrough(files: Files, file: string) {
  const levels = Object.entries(files)
    .filter(([name, text]) => kindOf(name, text) === 'level' && read(files, name).value)
    .map(([name]) => prepareLevel(read(files, name)))
  return readWalkthrough(files[file] ?? '', file, ...levels)
}

function levelsAround(files: Files, file: string): LevelLook['around'] {
  return (around(files, file)?.members ?? []).map((one) => ({
    ...one,
    places: Object.keys(read(files, one.file).value?.places ?? {}),
  }))
}

function levelLook(
  level: PreparedLevel,
  value: { readonly rooms: object; readonly doorways?: object | undefined },
  around: LevelLook['around'],
): LevelLook {
  const shapes = planShapes(level)
  const storeys = [
    ...new Set(shapes.flatMap((one) => (one.kind === 'room' && one.storey !== null ? [one.storey] : []))),
  ]
  return {
    title: level.title,
    shapes,
    grips: planGrips(level),
    listed: listInteractables(level),
    contents: level.contents,
    storeys,
    around,
    types: describeTypes(level).map(({ name }) => name),
    doorways: Object.keys(value.doorways ?? {}),
  }
}

/** Lets messages in: a task of its own, without the wait of a timer. */
function pause(): Promise<void> {
  return new Promise((done) => {
    const { port1, port2 } = new MessageChannel()
    port1.onmessage = () => {
      port1.close()
      done()
    }
    port2.postMessage(null)
  })
}

export type WorkApi = typeof api

expose(api)
