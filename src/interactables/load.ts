import { checkShape, type Level, type Reading, readShape } from '../model/index.ts'
import { settingDiagnostics } from './settings.ts'

/** Reads a level from YAML 1.2 or JSON text: its shape, and the settings of its instances. Never throws. */
export function readLevel(text: string, file: string | null = null): Reading<Level> {
  return withSettings(readShape(text, file))
}

/** Checks a level that was made in TypeScript, as a file would be checked. Never throws. */
export function loadLevel(level: unknown): Reading<Level> {
  return withSettings(checkShape(level))
}

function withSettings(reading: Reading<Level>): Reading<Level> {
  if (!reading.value) return reading
  const diagnostics = settingDiagnostics(reading.value, reading.source)
  return diagnostics.length === 0 ? reading : { ...reading, value: null, diagnostics }
}
