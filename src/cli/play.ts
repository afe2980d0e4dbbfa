import { type Expanded, expandLevel } from '../interactables/index.ts'
import { diagnostic, diagnosticText, nearestName, placeFrame, placeText, printable } from '../model/index.ts'
import {
  clockText,
  entryText,
  inspect,
  type Inspection,
  Journey,
  logLines,
  type Play,
  readWalkthrough,
  runWalkthrough,
  type Stage,
  startsOf,
  type WalkthroughResult,
} from '../play/index.ts'
import { layOut } from './laying-out.ts'
import { paint } from './paint.ts'
import { isProject, openProject } from './project.ts'
import { readLevelFile, writeDiagnostics } from './read.ts'
import { standingText } from './stepwise.ts'
import { exit, type World } from './world.ts'

/** Plays walkthroughs, prints what happened, and says which expectations were not met. */
export async function playCommand(
  levelFile: string,
  walkthroughFiles: readonly string[],
  { json, stepwise }: { readonly json: boolean; readonly stepwise: boolean },
  world: World,
): Promise<number> {
  const opened = await open(levelFile, world)
  if (!opened) return world.signal.aborted ? exit.interrupted : exit.unusable
  let failed = 0
  let unusable = 0
  for (const file of walkthroughFiles) {
    if (world.signal.aborted) return exit.interrupted
    const text = await world.readText(file)
    const reading = readWalkthrough(text, file, ...opened.levels)
    if (!reading.value) {
      writeDiagnostics(reading.diagnostics, text, world)
      unusable++
      continue
    }
    const { start = null } = reading.value
    if (start !== null && !opened.starts.includes(start)) {
      const place = reading.source.place('start')
      const message = `There is no start "${start}".`
      const nearest = nearestName(start, opened.starts)
      writeDiagnostics([diagnostic('wrong-shape', place, message, { nearest })], text, world)
      unusable++
      continue
    }
    const standing: Inspection[] = []
    const look = stepwise ? (play: Play, actor: number) => standing.push(inspect(play, actor)) : undefined
    const result = runWalkthrough(opened.begin(start), reading.value, reading.source, look)
    if (!result.passed) failed++
    world.out(json ? logLines(opened.title, result.log) : resultText(result, standing, file, text, world))
  }
  if (!json && walkthroughFiles.length > 1) {
    const played = walkthroughFiles.length - unusable
    world.out(`${String(played - failed)} of ${String(walkthroughFiles.length)} walkthroughs went as expected.\n`)
  }
  return unusable > 0 ? exit.unusable : failed > 0 ? exit.findings : exit.clean
}

/** A level or a project that can be played. */
interface Opened {
  readonly title: string
  readonly levels: readonly Expanded[]
  /** What a walkthrough begins in. */
  readonly begin: (start: string | null) => Stage | Journey
  /** The names of its starts; empty for a level. */
  readonly starts: readonly string[]
}

/** Opens a level file or a project file. Why it cannot be played is written to standard error; null then. */
async function open(file: string, world: World): Promise<Opened | null> {
  const text = await world.readText(file)
  if (isProject(text)) {
    const opened = await openProject(text, file, world)
    if (!opened) return null
    const { project, stages } = opened
    const levels = Object.values(stages).map(({ expanded }) => expanded)
    const starts = Object.keys(startsOf(project))
    return { title: project.title, levels, starts, begin: (start) => new Journey(project, stages, start) }
  }
  const read = await readLevelFile(file, world)
  if (!read) return null
  const stage = await layOut(expandLevel(read.level, read.source), world)
  if (!stage || !isPlayable(stage, read.text, world)) return null
  return { title: read.level.title, levels: [stage.expanded], starts: [], begin: () => stage }
}

/** A level in which names lead nowhere cannot be played. */
function isPlayable(stage: Stage, text: string, world: World): boolean {
  const unknown = stage.expanded.problems.filter((problem) => problem.rule === 'unknown-name')
  for (const problem of unknown) {
    const place = stage.expanded.source.place(problem.path)
    const message = `There is no ${problem.kind} "${problem.name}".`
    world.err(
      `${diagnosticText({ code: 'wrong-shape', place, message, found: null, expected: null, nearest: problem.nearest })}\n`,
    )
    const frame = placeFrame(text, place)
    if (frame !== '') world.err(`${frame}\n`)
  }
  if (unknown.length > 0)
    world.err('zintel: a level can be played once all its names lead somewhere; see zintel check.\n')
  return unknown.length === 0
}

function resultText(
  result: WalkthroughResult,
  standing: readonly Inspection[],
  file: string,
  text: string,
  world: World,
): string {
  const colour = paint(world.colours)
  const lines = [`${colour.bold(printable(result.title))}  ${colour.faint(printable(file))}`, '']
  for (const [i, step] of result.steps.entries()) {
    const until = result.steps[i + 1]?.logFrom ?? result.log.length
    const mark = step.failure !== null ? colour.error('FAIL') : step.isExpectation ? colour.good(' ok ') : '    '
    lines.push(`${mark} ${step.isExpectation ? colour.faint(printable(step.text)) : colour.bold(printable(step.text))}`)
    for (const entry of result.log.slice(step.logFrom, until)) {
      lines.push(`     ${colour.faint(clockText(entry.at).padStart(10))}  ${printable(entryText(entry))}`)
    }
    const now = standing[i]
    if (now && !step.isExpectation) {
      lines.push(...standingText(now, standing[i - 1] ?? null, colour, world.columns - 7), '')
    }
    if (step.failure === null) continue
    lines.push(`     ${colour.place(printable(placeText(step.place)))}`)
    lines.push(colour.faint(placeFrame(text, step.place).replaceAll(/^/gm, '     ')))
    lines.push(`     ${colour.error('Instead')}: ${printable(step.failure)}`)
  }
  const expected = result.steps.filter((step) => step.isExpectation)
  const met = expected.filter((step) => step.failure === null).length
  const other = result.steps.filter((step) => !step.isExpectation && step.failure !== null).length
  const stuck = other > 0 ? `, and ${String(other)} steps that could not be made` : ''
  const verdict = `${String(met)} of ${String(expected.length)} expectations met${stuck}.`
  lines.push('', result.passed ? colour.good(verdict) : colour.error(verdict), '')
  return `${lines.join('\n')}\n`
}
