import { readLevel } from '../interactables/index.ts'
import type { Level, Reading, Source } from '../model/index.ts'
import { type Diagnostic, diagnosticText, placeFrame } from '../model/index.ts'
import { paint } from './paint.ts'
import type { World } from './world.ts'

/** Reads a level file. Why it cannot be used is written to standard error; null then. */
export async function readLevelFile(
  file: string,
  world: World,
): Promise<{ readonly level: Level; readonly source: Source; readonly text: string } | null> {
  const text = await world.readText(file)
  const reading: Reading<Level> = readLevel(text, file)
  if (reading.value) return { level: reading.value, source: reading.source, text }
  writeDiagnostics(reading.diagnostics, text, world)
  return null
}

/** Writes diagnostics to standard error, each with the line it is about. */
export function writeDiagnostics(diagnostics: readonly Diagnostic[], text: string, world: World): void {
  const colour = paint(world.colours && world.progressColumns !== null)
  for (const problem of diagnostics) {
    world.err(`${diagnosticText(problem)}\n`)
    const frame = placeFrame(text, problem.place)
    if (frame !== '') world.err(`${colour.faint(frame)}\n`)
  }
  const count = diagnostics.length
  world.err(`zintel: ${count === 1 ? 'one thing' : `${String(count)} things`} to fix before this file can be used.\n`)
}
