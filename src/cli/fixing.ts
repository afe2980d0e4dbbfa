import { fillIn, narrowed, type Wanted } from '../findings/index.ts'
import { printable } from '../model/index.ts'
import { checkFiles, filesOf } from './checking.ts'
import { exitCode } from './outcome.ts'
import { commonTexts } from './read.ts'
import { paint } from './paint.ts'
import { changeLines, plural } from './report.ts'
import { triedFixes } from './tried-fixes.ts'
import { exit, Unusable, type World } from './world.ts'

/** What stood in a file before a fix, or before that was taken back, is kept beside it, under its name and this. */
const [beforeFix, beforeUndo] = ['.before-fix', '.before-undo']

/** Shows the automatic fixes of files, and makes them once that is agreed to; what was there is kept beside each file. */
export async function fixFiles(
  files: readonly string[],
  { budget, wanted, yes }: { readonly budget: number; readonly wanted: Wanted; readonly yes: boolean },
  world: World,
): Promise<number> {
  const colour = paint(world.colours)
  // Fixes that need a person to choose are not made here, and so not tried.
  const limits = { budget, quick: true, margins: false }
  let after = 0
  const reports = []
  const checked = []
  for await (const one of checkFiles(files, limits, world)) checked.push(one)
  for (const { report, text } of checked) {
    const shown = narrowed(report, wanted)
    reports.push(shown)
    if (report.outcome !== 'checked') continue
    const texts = { text, common: await commonTexts(text, report.file, world) }
    const tried = await triedFixes(report, shown.findings, texts, async (other) => {
      const from = await argumentOf(report.file, files, world)
      const trying = withText(world, report.file, other)
      for await (const again of checkFiles([from], limits, trying)) {
        if (again.report.file === report.file && again.report.outcome === 'checked') return again.report
      }
      return null
    })
    if (!tried) continue
    const { fixed, made, leftOut } = tried
    world.out(`${colour.bold(printable(report.file))}\n`)
    for (const { finding, brings } of leftOut) {
      const why = brings
        ? `Then ${brings.rule} ${printable(brings.subject)} would be found. If that is how it should be, write it yourself.`
        : 'It would still be found.'
      world.out(`  ${finding.rule} ${printable(finding.subject)}: not fixed. ${why}\n`)
    }
    if (made.length === 0) {
      world.out('  No automatic fixes.\n\n')
      continue
    }
    for (const { finding, lines } of made) {
      world.out(`  ${finding.rule} ${printable(finding.subject)}: ${printable(finding.fix.says)}\n`)
      world.out(`${changeLines(lines, colour).join('\n')}\n`)
    }
    const agreed = yes || (await world.ask(`Make ${plural(made.length, 'fix')} in ${report.file}? [y/N] `))
    if (agreed === null) {
      world.out('  Nothing was changed: say --yes to make them without being asked.\n\n')
      continue
    }
    if (!agreed) {
      world.out('  Nothing was changed.\n\n')
      continue
    }
    let copy = ''
    await world.replaceText(report.file, text, fixed, async () => {
      copy = await keep(report.file, beforeFix, text, world)
    })
    after += made.length
    world.out(`  ${colour.good('Fixed.')} What was there is in ${copy}; zintel check --undo-fix puts it back.\n`)
    const blanks = fixed.split('\n').flatMap((line, i) => (line.includes(fillIn) ? [String(i + 1)] : []))
    if (blanks.length > 0) world.out(`  To be filled in: line ${blanks.join(', ')}.\n`)
    world.out('\n')
  }
  if (after === 0 || world.signal.aborted) return exitCode(reports, world)
  const again = []
  for await (const { report } of checkFiles(files, limits, world)) again.push(narrowed(report, wanted))
  const left = again.reduce((sum, { findings }) => sum + findings.length, 0)
  world.out(`${plural(left, 'finding')} left. Next: zintel check ${files.join(' ')}\n`)
  return exitCode(again, world)
}

/** What was said on the command line that a level comes from: its file, or its project. */
async function argumentOf(level: string, said: readonly string[], world: World): Promise<string> {
  for (const file of said) if (file !== level && (await filesOf([file], world)).includes(level)) return file
  return level
}

/** The same world, in which a file has another text, and files are checked here. */
function withText(world: World, file: string, text: string): World {
  return {
    ...world,
    helpers: null,
    readText: (wanted) => (wanted === file ? Promise.resolve(text) : world.readText(wanted)),
  }
}

/** Writes what is in a file beside it, under the first name that is free. */
async function keep(file: string, before: string, text: string, world: World): Promise<string> {
  const copy = `${file}${before}${String((await lastKept(file, before, world)) + 1)}`
  await world.writeText(copy, text)
  return copy
}

/** How many times what was in a file has been kept. */
async function lastKept(file: string, before: string, world: World): Promise<number> {
  let count = 0
  while (await world.exists(`${file}${before}${String(count + 1)}`)) count++
  return count
}

/** Puts back what was in files before they were fixed last; what was in them until now, changed since or not, is kept. */
export async function undoFixes(files: readonly string[], world: World): Promise<number> {
  let found = 0
  for (const file of await filesOf(files, world)) {
    const last = await lastKept(file, beforeFix, world)
    if (last === 0) continue
    found++
    const copy = `${file}${beforeFix}${String(last)}`
    const now = await world.readText(file)
    let until = ''
    await world.replaceText(file, now, await world.readText(copy), async () => {
      until = await keep(file, beforeUndo, now, world)
      await world.remove(copy)
    })
    world.out(`${file}: as it was before it was fixed last. What was there until now is in ${until}.\n`)
  }
  if (found === 0) throw new Unusable('none of these files was fixed, so there is nothing to put back.')
  return exit.clean
}
