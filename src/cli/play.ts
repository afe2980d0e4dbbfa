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
  verdictOf,
  type WalkthroughResult,
} from '../play/index.ts'
import { junitOfPlays } from '../formats/index.ts'
import { filesBehind } from './checking.ts'
import { layOut } from './laying-out.ts'
import { type Pair, pairsOf } from './pairing.ts'
import { paint } from './paint.ts'
import { kindOf } from './kind.ts'
import { openProject } from './project.ts'
import { readLevelFile, writeDiagnostics } from './read.ts'
import { standingText } from './stepwise.ts'
import { exit, readingOnce, Unusable, type World } from './world.ts'

/** What is asked for when walkthroughs are played. */
export interface PlayCommand {
  readonly format: 'text' | 'json' | 'junit'
  /** Where the output is written; null: to standard output. */
  readonly out: string | null
  /** How everything stands after each step. */
  readonly stepwise: boolean
  /** Only walkthroughs in whose file name or title this stands; null: all. */
  readonly only: string | null
  /** Again, each time a file is saved. */
  readonly watch: boolean
}

/** A walkthrough that was played; without a result it could not be. */
interface Played extends Pair {
  readonly result: WalkthroughResult | null
  readonly problems: readonly string[]
  readonly text: string
}

/** Plays walkthroughs, prints what happened, and says which expectations were not met. */
export async function playCommand(args: readonly string[], options: PlayCommand, real: World): Promise<number> {
  if (options.watch) return await watchPlays(args, options, real)
  const world = readingOnce(real)
  const all = await playAll(await pairsOf(args, world), options, world)
  if (!all) return exit.interrupted
  if (all.length === 0)
    throw new Unusable(`--only: there is no walkthrough with "${options.only ?? ''}" in its name or title.`)
  const passed = all.filter(({ result }) => result?.passed === true).length
  const verdict = `${String(passed)} of ${String(all.length)} walkthroughs went as expected.\n`
  const plays = all.map(({ walkthrough: file, result, problems }) => ({ file, result, problems }))
  const text =
    options.format === 'junit'
      ? junitOfPlays(plays)
      : all.map((one) => one.text).join('') + (options.format === 'text' && all.length > 1 ? verdict : '')
  if (options.out === null) world.out(text)
  else await world.writeText(options.out, text)
  if (all.some(({ result }) => result === null)) return exit.unusable
  return passed < all.length ? exit.findings : exit.clean
}

/** Plays walkthroughs, each in its level; null where that was interrupted. */
async function playAll(pairs: readonly Pair[], options: PlayCommand, world: World): Promise<Played[] | null> {
  const page = options.out === null ? world : { ...world, colours: false }
  const opened = new Map<string, Opened | null>()
  const all: Played[] = []
  for (const pair of pairs) {
    if (world.signal.aborted) return null
    if (!opened.has(pair.level)) opened.set(pair.level, await open(pair.level, world))
    if (world.signal.aborted) return null
    const level = opened.get(pair.level) ?? null
    const played = level ? await playIn(level, pair, options, page) : notPlayed(pair, 'its level cannot be used')
    if (played) all.push(played)
  }
  return all
}

/** Plays walkthroughs again each time they, or their levels, are saved. What goes as it did before is only named. */
async function watchPlays(args: readonly string[], options: PlayCommand, real: World): Promise<number> {
  if (options.format !== 'text' || options.out !== null) throw new Unusable('--watch prints text, to standard output.')
  const before = new Map<string, string>()
  while (!real.signal.aborted) {
    const world = readingOnce(real)
    const pairs = await orTold(pairsOf(args, world), world)
    const levels = [...new Set(pairs.map(({ level }) => level))]
    // What is saved while walkthroughs are being played counts too.
    const parts = await filesBehind(levels, world).catch(() => [])
    const watched = [...args, ...parts, ...pairs.flatMap(({ level, walkthrough }) => [level, walkthrough])]
    const stamp = await real.stamp(watched)
    for (const { walkthrough, result, text } of (await orTold(playAll(pairs, options, world), world)) ?? []) {
      const isAsBefore = result?.passed === true && before.get(walkthrough) === text
      before.set(walkthrough, text)
      real.out(isAsBefore ? `${printable(walkthrough)}: as before, all expectations met.\n` : text)
    }
    if (real.signal.aborted) break
    real.err('Watching: plays again when a file is saved. Ctrl-C ends it.\n')
    await real.changed(watched, stamp)
  }
  return exit.interrupted
}

/** What a promise gives; where it fails because of what is in files, that is told, and it gives nothing. */
async function orTold<T>(promise: Promise<T[] | null>, world: World): Promise<T[]> {
  try {
    return (await promise) ?? []
  } catch (error) {
    if (!(error instanceof Unusable)) throw error
    world.err(`zintel: ${error.message}\n`)
    return []
  }
}

function notPlayed(pair: Pair, problem: string): Played {
  return { ...pair, result: null, problems: [problem], text: '' }
}

/** Plays one walkthrough; null where it is not asked for. Why it cannot be played is written to standard error. */
async function playIn(opened: Opened, pair: Pair, options: PlayCommand, world: World): Promise<Played | null> {
  const { walkthrough: file } = pair
  const text = await world.readText(file)
  const reading = readWalkthrough(text, file, ...opened.levels)
  const { only } = options
  if (only !== null && ![file, reading.value?.title ?? ''].some((name) => name.includes(only))) return null
  if (!reading.value) {
    writeDiagnostics(reading.diagnostics, text, world)
    return { ...notPlayed(pair, ''), problems: reading.diagnostics.map(diagnosticText) }
  }
  const { start = null } = reading.value
  if (start !== null && !opened.starts.includes(start)) {
    const message = `There is no start "${start}".`
    const nearest = nearestName(start, opened.starts)
    const problem = diagnostic('wrong-shape', reading.source.place('start'), message, { nearest })
    writeDiagnostics([problem], text, world)
    return notPlayed(pair, diagnosticText(problem))
  }
  const standing: Inspection[] = []
  const look = options.stepwise ? (play: Play, actor: number) => standing.push(inspect(play, actor)) : undefined
  const result = runWalkthrough(opened.begin(start), reading.value, reading.source, look)
  const said =
    options.format === 'json'
      ? `${logLines(opened.title, result.log)}${JSON.stringify(verdictOf(result, file, pair.level))}\n`
      : resultText(result, standing, file, text, world)
  return { ...pair, result, problems: [], text: said }
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
  if (kindOf(text) === 'project') {
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
