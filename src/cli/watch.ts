import { type FileReport, type Finding, narrowed, type Wanted } from '../findings/index.ts'
import { checkFiles, filesBehind } from './checking.ts'
import { paint, wrapped } from './paint.ts'
import { closingText, findingText, reportText } from './report.ts'
import { exit, type Limits, Unusable, type World } from './world.ts'

/** Checks files again each time one of them is saved, and shows what came and what went since the last time. */
export async function watchFiles(
  files: readonly string[],
  { limits, wanted }: { readonly limits: Limits; readonly wanted: Wanted },
  world: World,
): Promise<number> {
  const before = new Map<string, FileReport>()
  while (!world.signal.aborted) {
    // What is saved while files are being checked counts too.
    const watched = await filesBehind(files, world).catch(ignored(files))
    const stamp = await world.stamp(watched)
    for await (const { report, text } of checkFiles(files, limits, world)) {
      if (report.outcome !== 'checked') continue
      const shown = narrowed(report, wanted)
      const last = before.get(shown.file)
      before.set(shown.file, shown)
      world.out(last ? sinceText(last, shown, text, world) : reportText(shown, text, world))
    }
    if (world.signal.aborted) break
    world.err('Watching: checks again when a file is saved. Ctrl-C ends it.\n')
    await world.changed(watched, stamp)
  }
  return exit.interrupted
}

/** A file that cannot be read now is told by the check. */
function ignored(files: readonly string[]): (error: unknown) => string[] {
  return (error) => {
    if (error instanceof Unusable) return [...files]
    throw error
  }
}

/** What came and went between two checks of a file. */
function sinceText(last: FileReport, now: FileReport, text: string, world: World): string {
  const colour = paint(world.colours)
  const page = { file: now.file, text, colour, columns: world.columns, isWhole: false }
  const key = ({ rule, subject, message }: Finding): string => `${rule} ${subject} ${message}`
  const keys = (report: FileReport): Set<string> => new Set(report.findings.map(key))
  const [were, are] = [keys(last), keys(now)]
  const went = last.findings.filter((one) => !are.has(key(one)))
  const came = now.findings.flatMap((one, i) => (were.has(key(one)) ? [] : [findingText(one, i + 1, page)]))
  const stay = now.findings.length - came.length
  const parts = [
    colour.bold(now.file),
    ...went.map(({ rule, subject }) => wrapped(colour.good(`gone: ${rule} ${subject}`), world.columns, '  ')),
    ...(came.length > 0 ? [colour.warning('new:'), ...came] : []),
    went.length + came.length === 0 ? 'Nothing came, and nothing went.' : `${String(stay)} as before.`,
    closingText(now, page),
  ]
  return `${parts.join('\n')}\n\n`
}
