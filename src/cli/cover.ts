import { Document, isCollection, isMap, isNode, isSeq } from 'yaml'
import { type Cover, type CoverItem, coverKinds, coverLevel, type FilledIn } from '../cover/index.ts'
import { expandLevel } from '../interactables/index.ts'
import { printable, type Source } from '../model/index.ts'
import { readWalkthrough, type Walkthrough } from '../play/index.ts'
import { driven, layOut } from './laying-out.ts'
import { paint, wrapped } from './paint.ts'
import { readLevelFile, writeDiagnostics } from './read.ts'
import { plural } from './report.ts'
import { exit, Unusable, type World } from './world.ts'

/** How a cover command was called. */
export interface CoverCommand {
  readonly json: boolean
  /** The folder that walkthroughs for the rest are written to; null: none are. */
  readonly write: string | null
  readonly budget: number | undefined
}

/** Prints what walkthroughs exercise of what can happen in a level, and writes walkthroughs for the rest. */
export async function coverCommand(
  levelFile: string,
  walkthroughFiles: readonly string[],
  { json, write, budget }: CoverCommand,
  world: World,
): Promise<number> {
  const read = await readLevelFile(levelFile, world)
  if (!read) return exit.unusable
  const expanded = expandLevel(read.level, read.source)
  const walkthroughs: { readonly file: string; readonly walkthrough: Walkthrough; readonly source: Source }[] = []
  for (const file of walkthroughFiles) {
    const text = await world.readText(file)
    const { value, source, diagnostics } = readWalkthrough(text, file, expanded)
    if (value) walkthroughs.push({ file, walkthrough: value, source })
    else writeDiagnostics(diagnostics, text, world)
  }
  if (walkthroughs.length < walkthroughFiles.length) return exit.unusable
  if (write !== null) await claim(fileOf(levelFile, write, 0), world)
  const stage = await layOut(expanded, world)
  const work = stage && coverLevel(stage, walkthroughs, { budget, fill: write !== null })
  const done = work && (await driven(work, expanded.level.title, world))
  if (!done) return exit.interrupted
  const { cover, filled, left } = done
  const written = write === null ? [] : await writeAll(levelFile, write, filled, world)
  if (json) {
    const files = walkthroughs.map(({ file }, i) => ({ file, ...cover.walkthroughs[i]! }))
    world.out(`${JSON.stringify({ ...cover, file: levelFile, walkthroughs: files, written }, null, 2)}\n`)
  } else {
    world.out(coverText(cover, walkthroughFiles, world))
    if (write === null) world.out(hintText(cover))
    else world.out(writtenText(filled, left, written, world))
  }
  return exitCode(cover, write === null ? cover.items.filter(({ by }) => by.length === 0) : left)
}

/** A walkthrough failed, or something that can happen is not exercised; something is undecided; or all is well. */
function exitCode({ totals, walkthroughs }: Cover, left: readonly CoverItem[]): number {
  if (walkthroughs.some(({ passed }) => !passed) || left.some(({ possible }) => possible === 'yes'))
    return exit.findings
  return Object.values(totals).some(({ undecided }) => undecided > 0) ? exit.undecided : exit.clean
}

const headings = { state: 'states', transition: 'transitions', refusal: 'refusals', feedback: 'feedback' } as const

function coverText(cover: Cover, files: readonly string[], world: World): string {
  const colour = paint(world.colours)
  const lines = [`${colour.bold(printable(cover.title))}  ${plural(files.length, 'walkthrough')}`, '']
  for (const [i, { title, passed }] of cover.walkthroughs.entries()) {
    const verdict = passed ? colour.good('as expected') : colour.error('not as expected: zintel play says why')
    lines.push(`  ${printable(title)}  ${colour.faint(printable(files[i]!))}  ${verdict}`)
  }
  if (files.length > 0) lines.push('')
  for (const kind of coverKinds) {
    const { possible, exercised, undecided } = cover.totals[kind]
    const share = possible === 0 ? '' : ` ${`${String(Math.floor((100 * exercised) / possible))} %`.padStart(6)}`
    const count = `${String(exercised)} of ${String(possible)}`.padStart(12)
    lines.push(
      `  ${headings[kind].padEnd(12)}${count}${share}${undecided > 0 ? `  ${String(undecided)} undecided` : ''}`,
    )
  }
  const missed = cover.items.filter(({ by }) => by.length === 0)
  lines.push(...missedLines(missed, 'yes', 'Not exercised', world))
  lines.push(...missedLines(missed, 'undecided', 'Undecided whether it can happen', world))
  if (cover.gap !== null) lines.push('', wrapped(`Not everything was explored: ${cover.gap}.`, world.columns, ''))
  return `${lines.join('\n')}\n\n`
}

function missedLines(
  missed: readonly CoverItem[],
  possible: CoverItem['possible'],
  heading: string,
  world: World,
): string[] {
  const own = missed.filter((item) => item.possible === possible)
  const names = [...new Set(own.map(({ interactable }) => interactable))]
  const colour = paint(world.colours)
  const lines = names.flatMap((name) => [
    `  ${colour.bold(printable(name))}`,
    ...coverKinds.flatMap((kind) => {
      const texts = own.filter((one) => one.interactable === name && one.kind === kind).map(({ text }) => text)
      if (texts.length === 0) return []
      const [first = '', ...more] = wrapped(
        texts.join(kind === 'refusal' ? '; ' : ', '),
        world.columns,
        ' '.repeat(16),
      ).split('\n')
      return [`    ${colour.faint(kind.padEnd(12))}${first.trimStart()}`, ...more]
    }),
  ])
  return names.length === 0 ? [] : ['', heading, ...lines]
}

/** What to do next. */
function hintText({ items }: Cover): string {
  if (items.every(({ by, possible }) => by.length > 0 || possible === 'undecided')) return ''
  return 'Add --write FOLDER to write walkthroughs for the rest.\n'
}

/** Writes walkthroughs into a folder; none of them where there is a file of that name already. Gives their files. */
async function writeAll(
  levelFile: string,
  folder: string,
  filled: readonly FilledIn[],
  world: World,
): Promise<string[]> {
  const files = filled.map((_, i) => fileOf(levelFile, folder, i))
  for (const file of files) await claim(file, world)
  for (const [i, file] of files.entries()) await world.writeText(file, yamlText(filled[i]!))
  return files
}

function fileOf(levelFile: string, folder: string, index: number): string {
  const base = levelFile.replace(/^.*[/\\]/, '').replace(/(\.level)?\.(ya?ml|json)$/, '')
  return `${folder.replace(/[/\\]+$/, '')}/${base}.cover-${String(index + 1)}.walkthrough.yaml`
}

async function claim(file: string, world: World): Promise<void> {
  if (await world.exists(file)) throw new Unusable(`${file}: there is something of that name already.`)
}

/** A walkthrough as YAML, with what each step exercises in a comment before it. */
function yamlText({ walkthrough, notes }: FilledIn): string {
  const document = new Document(walkthrough, { aliasDuplicateObjects: false })
  const steps = document.get('steps')
  if (!isSeq(steps)) throw new Error('a walkthrough has steps')
  for (const [i, node] of steps.items.entries()) {
    const note = notes[i] ?? ''
    if (isNode(node) && note !== '') node.commentBefore = note.replaceAll(/^/gm, ' ')
    if (isMap(node)) for (const { value } of node.items) if (isCollection(value)) value.flow = true
  }
  document.commentBefore =
    ' Written by zintel cover: each comment says what the step below it is the first to exercise.'
  return document.toString({ lineWidth: 120 })
}

function writtenText(
  filled: readonly FilledIn[],
  left: readonly CoverItem[],
  files: readonly string[],
  world: World,
): string {
  const rest = left
    .filter(({ possible }) => possible === 'yes')
    .map(({ interactable, text }) => `${interactable}: ${text}`)
  const none = rest.length === 0 ? 'Everything that can happen is exercised.' : ''
  if (files.length === 0) return rest.length === 0 ? `${none}\n` : `No walkthrough was found for the rest.\n`
  const lines = files.map((file, i) => `  ${printable(file)}  ${plural(filled[i]!.walkthrough.steps.length, 'step')}`)
  const told =
    rest.length === 0
      ? `With ${files.length === 1 ? 'it' : 'them'}, everything that can happen is exercised.`
      : `No walkthrough was found for ${rest.join('; ')}.`
  return `Wrote ${plural(files.length, 'walkthrough')}:\n${lines.join('\n')}\n${wrapped(printable(told), world.columns, '')}\n`
}
