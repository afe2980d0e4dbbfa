import { runInSlices, type Progress } from '../explore/index.ts'
import {
  check,
  type CheckOptions,
  checkProject as checkLevels,
  emptyReport,
  type FileReport,
  rules,
  type Surroundings,
  withSeverities,
} from '../findings/index.ts'
import { expandLevel } from '../interactables/index.ts'
import {
  besideFile,
  commonFilesOf,
  type Diagnostic,
  diagnostic,
  type Level,
  nearestName,
  quoted,
  type Reading,
  type Source,
} from '../model/index.ts'
import { lostNames, type Project, readProject } from '../play/index.ts'
import { ProgressLine } from './progress.ts'
import { kindOf } from './kind.ts'
import { levelFiles } from './project.ts'
import { readWithCommon, writeDiagnostics } from './read.ts'
import { type Checked, type HelpDone, type Helper, type Helpers, type Limits, Unusable, type World } from './world.ts'

/**
 * Checks levels, and the levels of projects, in their order; several of them at a time, where there are others to help. What cannot be
 * used is told on standard error.
 */
export async function* checkFiles(
  files: readonly string[],
  limits: Limits,
  world: World,
): AsyncGenerator<Checked, void> {
  if (world.helpers && files.length > 1) {
    yield* checkInThreads(files, limits, world, world.helpers)
    return
  }
  for (const file of files) {
    if (world.signal.aborted) return
    const text = await readFile(file, world)
    if (text === null) yield { report: unreadable(file), text: '' }
    else yield* checkOne(file, text, limits, world)
  }
}

/** Checks one level, or all levels of a project. */
export async function* checkOne(
  file: string,
  text: string,
  limits: Limits,
  world: World,
): AsyncGenerator<Checked, void> {
  if (kindOf(text) === 'project') yield* checkProject(file, text, limits, world)
  else yield await checkText(file, text, limits, world)
}

/** How often others are told of an interrupt, and how far all has come is shown, in ms. */
const lookEvery = 50

/** Shares files out to other threads, and gives what comes of them in the order of the files. */
async function* checkInThreads(
  files: readonly string[],
  limits: Limits,
  world: World,
  others: Helpers,
): AsyncGenerator<Checked, void> {
  const helpers = Array.from({ length: Math.min(others.most, files.length) }, () => others.start())
  const free = [...helpers]
  const waiting: ((helper: Helper) => void)[] = []
  const taken = (): Promise<Helper> => {
    const helper = free.pop()
    return helper ? Promise.resolve(helper) : new Promise((resolve) => waiting.push(resolve))
  }
  const line = new ProgressLine(world, 'files', 'files')
  let done = 0
  const look = setInterval(() => {
    line.show({ doing: 'checking', situations: done, budget: files.length })
    if (world.signal.aborted) for (const helper of helpers) helper.interrupt()
  }, lookEvery)
  const results = files.map(async (file): Promise<HelpDone> => {
    const helper = await taken()
    try {
      if (world.signal.aborted) return { checked: [], err: '' }
      const text = await readFile(file, world)
      if (text === null) return { checked: [{ report: unreadable(file), text: '' }], err: '' }
      return await helper.check(file, text, limits)
    } finally {
      done++
      const next = waiting.shift()
      if (next) next(helper)
      else free.push(helper)
    }
  })
  // What fails is told when its turn comes, and not before.
  for (const result of results) void result.catch(() => undefined)
  try {
    for (const result of results) {
      const { checked, err } = await result
      world.err(err)
      yield* checked
    }
  } finally {
    clearInterval(look)
    line.end()
    await Promise.all(helpers.map((helper) => helper.end()))
  }
}

/** The level files among these, with those of projects in place of the projects. */
export async function filesOf(files: readonly string[], world: World): Promise<string[]> {
  const all: string[] = []
  for (const file of files) {
    const text = await world.readText(file)
    if (kindOf(text) === 'project') all.push(...Object.values(levelFiles(text, file, world) ?? {}))
    else all.push(file)
  }
  return all
}

/** All files on which what is known of these hangs: themselves, the levels of projects, and what levels have in common. */
export async function filesBehind(files: readonly string[], world: World): Promise<string[]> {
  const levels = await filesOf(files, world)
  const common = await Promise.all(
    levels.map(async (file) => {
      const text = await world.readText(file)
      return commonFilesOf(text).map((named) => besideFile(file, named))
    }),
  )
  return [...new Set([...files, ...levels, ...common.flat()])]
}

async function readFile(file: string, world: World): Promise<string | null> {
  try {
    return await world.readText(file)
  } catch (error) {
    if (!(error instanceof Unusable)) throw error
    world.err(`zintel: ${error.message}\n`)
    return null
  }
}

function unreadable(file: string): FileReport {
  const place = { file, line: null, column: null, path: '' }
  const message = 'The file could not be read.'
  return emptyReport(file, 'unusable', [
    { code: 'not-readable', place, message, found: null, expected: null, nearest: null },
  ])
}

/** Checks the levels of a project, each with the others round it. */
async function* checkProject(file: string, text: string, limits: Limits, world: World): AsyncGenerator<Checked, void> {
  const reading = readProject(text, file)
  const files = levelFiles(text, file, world)
  if (!reading.value || !files) {
    yield { report: emptyReport(file, 'unusable', reading.diagnostics), text }
    return
  }
  const levels: Record<string, Surroundings['levels'][string]> = {}
  const read = new Map<string, Checked | { readonly text: string; readonly report: null }>()
  for (const [name, levelFile] of Object.entries(files)) {
    const levelText = await readFile(levelFile, world)
    const level = levelText === null ? null : await readWithCommon(levelText, levelFile, world)
    if (level?.value) levels[name] = expandLevel(level.value, level.source)
    else if (level) writeDiagnostics(level.diagnostics, levelText ?? '', world, levelFile)
    const report = level ? emptyReport(levelFile, 'unusable', level.diagnostics) : unreadable(levelFile)
    read.set(name, { text: levelText ?? '', report: level?.value ? null : report })
  }
  const lost = [...lostNames(reading, levels), ...unknownRules(reading)]
  if (lost.length > 0) {
    writeDiagnostics(lost, text, world)
    yield { report: emptyReport(file, 'unusable', lost), text }
  }
  const severities = reading.value.severities ?? {}
  const reports = await checkedProject(reading.value, levels, limits, world)
  for (const [name, { text: levelText, report: unusable }] of read) {
    const report = unusable ?? reports[name] ?? emptyReport(files[name]!, 'interrupted', [])
    yield { text: levelText, report: withSeverities(report, severities) }
  }
}

/** Checks those levels of a project that can be used, by name; none where it was interrupted before anything was known. */
async function checkedProject(
  project: Project,
  levels: Surroundings['levels'],
  limits: Limits,
  world: World,
): Promise<Readonly<Record<string, FileReport>>> {
  const reports = (await shown(checkLevels(project, levels, limits), project.title, world)) ?? []
  return Object.fromEntries(Object.keys(levels).flatMap((name, i) => (reports[i] ? [[name, reports[i]]] : [])))
}

/** Rules in the severities of a project that are not there. */
function unknownRules({ value, source }: Reading<Project>): Diagnostic[] {
  const known = rules.map(({ name }) => String(name))
  return Object.keys(value?.severities ?? {}).flatMap((rule) => {
    if (known.includes(rule)) return []
    const nearest = nearestName(rule, known)
    return [
      diagnostic('unknown-key', source.keyPlace(`severities.${rule}`), `There is no rule ${quoted(rule)}.`, {
        nearest,
      }),
    ]
  })
}

/** Checks the text of a level file. */
export async function checkText(file: string, text: string, options: CheckOptions, world: World): Promise<Checked> {
  const reading = await readWithCommon(text, file, world)
  if (!reading.value) {
    writeDiagnostics(reading.diagnostics, text, world, file)
    return { report: emptyReport(file, 'unusable', reading.diagnostics), text }
  }
  return { report: await checkLevel(reading.value, reading.source, options, world), text }
}

async function checkLevel(level: Level, source: Source, options: CheckOptions, world: World): Promise<FileReport> {
  const report = await shown(check(level, source, options), level.title, world)
  return report ?? emptyReport(source.file ?? level.title, 'interrupted', [])
}

/** Runs a check, and shows how far it has come; null where it was interrupted before anything was known. */
async function shown<T>(work: Generator<Progress, T>, title: string, world: World): Promise<T | null> {
  const line = new ProgressLine(world, title)
  const driven = await runInSlices(work, {
    signal: world.signal,
    keepsWhatIsKnown: true,
    onProgress: (progress: Progress) => {
      line.show(progress)
    },
    now: () => world.now(),
    pause: () => world.pause(),
  })
  line.end()
  return driven.done ? driven.value : null
}
