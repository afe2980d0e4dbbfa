import { readLevel } from '../interactables/index.ts'
import type { Level, Reading, Source } from '../model/index.ts'
import { besideFile, commonFilesOf, type Diagnostic, diagnosticText, placeFrame } from '../model/index.ts'
import { paint } from './paint.ts'
import type { World } from './world.ts'

/** Reads a level file. Why it cannot be used is written to standard error; null then. */
export async function readLevelFile(
  file: string,
  world: World,
): Promise<{ readonly level: Level; readonly source: Source; readonly text: string } | null> {
  const text = await world.readText(file)
  const reading = await readWithCommon(text, file, world)
  if (reading.value) return { level: reading.value, source: reading.source, text }
  writeDiagnostics(reading.diagnostics, text, world, file)
  return null
}

/** Reads a level from its text, with the files that it has in common with others. */
export async function readWithCommon(text: string, file: string, world: World): Promise<Reading<Level>> {
  return readLevel(text, file, await commonTexts(text, file, world))
}

/** The texts of the files that a level has in common with others, by the names that it has for them; those that can be read. */
export async function commonTexts(text: string, file: string, world: World): Promise<Record<string, string>> {
  const common: Record<string, string> = {}
  for (const named of commonFilesOf(text)) {
    const found = await world.readText(besideFile(file, named)).catch(() => null)
    // One that is not there is told where it is named.
    if (found !== null) common[named] = found
  }
  return common
}

/** Writes diagnostics to standard error, each with the line it is about; where `file` is given, lines of it alone. */
export function writeDiagnostics(diagnostics: readonly Diagnostic[], text: string, world: World, file?: string): void {
  const colour = paint(world.colours && world.progressColumns !== null)
  for (const problem of diagnostics) {
    world.err(`${diagnosticText(problem)}\n`)
    const isHere = file === undefined || problem.place.file === file
    const frame = isHere ? placeFrame(text, problem.place) : ''
    if (frame !== '') world.err(`${colour.faint(frame)}\n`)
  }
  const count = diagnostics.length
  world.err(`zintel: ${count === 1 ? 'one thing' : `${String(count)} things`} to fix before this file can be used.\n`)
}
