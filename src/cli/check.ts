import { drive, type Progress } from '../explore/index.ts'
import { check, checkNow, emptyReport, type FileReport } from '../findings/index.ts'
import { readLevel } from '../interactables/index.ts'
import type { Level, Source } from '../model/index.ts'
import { ProgressLine } from './progress.ts'
import { isProject, levelFiles, openProject } from './project.ts'
import { writeDiagnostics } from './read.ts'
import { reportText } from './report.ts'
import { exit, Unusable, type World } from './world.ts'

/** How many situations are looked at again for what is known when a check is interrupted. */
const knownUntilThen = 20_000

/** Checks levels, and prints what was found. */
export async function checkCommand(
  files: readonly string[],
  options: { readonly json: boolean; readonly budget: number },
  world: World,
): Promise<number> {
  const reports: FileReport[] = []
  for (const file of await withLevels(files, reports, world)) {
    if (world.signal.aborted) break
    const { report, text } = await checkFile(file, options, world)
    reports.push(report)
    if (!options.json && report.outcome !== 'unusable') world.out(reportText(report, text, world))
  }
  if (options.json) world.out(`${JSON.stringify(reports, null, 2)}\n`)
  return exitCode(reports, world)
}

/** The files with the levels of projects in place of these; a project that cannot be used is reported. */
async function withLevels(files: readonly string[], reports: FileReport[], world: World): Promise<string[]> {
  const all: string[] = []
  for (const file of files) {
    const text = await world.readText(file).catch(() => null)
    if (text === null || !isProject(text)) {
      all.push(file)
      continue
    }
    const levels = (await openProject(text, file, world)) && levelFiles(text, file, world)
    if (levels) all.push(...Object.values(levels))
    else reports.push(emptyReport(file, 'unusable', []))
  }
  return all
}

async function checkFile(
  file: string,
  options: { readonly json: boolean; readonly budget: number },
  world: World,
): Promise<{ report: FileReport; text: string }> {
  let text: string
  try {
    text = await world.readText(file)
  } catch (error) {
    if (!(error instanceof Unusable)) throw error
    world.err(`zintel: ${error.message}\n`)
    const place = { file, line: null, column: null, path: '' }
    const problem = {
      code: 'not-readable',
      place,
      message: error.message,
      found: null,
      expected: null,
      nearest: null,
    } as const
    return { report: emptyReport(file, 'unusable', [problem]), text: '' }
  }
  const reading = readLevel(text, file)
  if (!reading.value) {
    writeDiagnostics(reading.diagnostics, text, world)
    return { report: emptyReport(file, 'unusable', reading.diagnostics), text }
  }
  return { report: await checkLevel(reading.value, reading.source, options.budget, world), text }
}

async function checkLevel(level: Level, source: Source, budget: number, world: World): Promise<FileReport> {
  const line = new ProgressLine(world, level.title)
  const driven = await drive(check(level, source, { budget }), {
    signal: world.signal,
    onProgress: (progress: Progress) => {
      line.show(progress)
    },
    now: () => world.now(),
    pause: () => world.pause(),
  })
  line.end()
  if (driven.done) return driven.value
  const looked = driven.last?.situations ?? 0
  const stoppedBy = `the check was interrupted after ${String(looked)} situations`
  const known = checkNow(level, source, { budget: Math.max(1, Math.min(looked, knownUntilThen)), stoppedBy })
  return { ...known, outcome: 'interrupted' }
}

function exitCode(reports: readonly FileReport[], world: World): number {
  if (world.signal.aborted) return exit.interrupted
  if (reports.some(({ outcome }) => outcome === 'unusable')) return exit.unusable
  const findings = reports.flatMap((report) => report.findings)
  if (findings.some(({ severity }) => severity !== 'advice')) return exit.findings
  return reports.some(({ counts }) => counts.open > 0) ? exit.open : exit.clean
}
