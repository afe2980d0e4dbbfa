import {
  checkShape,
  diagnostic,
  isCondition,
  type Level,
  levelVersion,
  type Reading,
  readShape,
  valueSource,
  withCommon,
} from '../model/index.ts'
import { type ConditionTest, settingDiagnostics } from './settings.ts'

/**
 * Reads a level from YAML 1.2 or JSON text: its shape, and the settings of its instances. `file`: what places in diagnostics call it.
 * `common`: the texts of the files that it has in common with other levels, by the names that it has for them.
 * Never throws; `value` is null where there are diagnostics.
 */
export function readLevel(
  text: string,
  file: string | null = null,
  common: Readonly<Record<string, string>> = {},
): Reading<Level> {
  const reading = withSettings(withCommon(readShape(text, file), common), isCondition)
  // Code that changes the text can ask whether it can still be read.
  return { ...reading, source: { ...reading.source, reads: (other) => readLevel(other, file, common).value !== null } }
}

/** Holds a value of unknown origin, such as parsed JSON, to what a level file may say. Never throws; see `readLevel`. */
export function readLevelValue(value: unknown): Reading<Level> {
  return withSettings(checkShape(value), isCondition)
}

/**
 * Takes a level that was made with `defineLevel`, whose shape the compiler has held to the type, and checks the settings of its
 * instances. Never throws. For values that no compiler has seen there is `readLevelValue` in `zintel/yaml`.
 */
export function loadLevel(level: Level): Reading<Level> {
  const source = valueSource(level)
  if ((level as Partial<Level> | null | undefined)?.zintel === levelVersion)
    return withSettings({ value: level, source, diagnostics: [] }, () => true)
  const expected = 'a value made with defineLevel; readLevelValue of zintel/yaml tells what is wrong with others'
  return {
    value: null,
    source,
    diagnostics: [diagnostic('wrong-shape', source.place(''), 'This is not a level.', { expected })],
  }
}

function withSettings(reading: Reading<Level>, isConditionThere: ConditionTest): Reading<Level> {
  if (!reading.value) return reading
  const diagnostics = settingDiagnostics(reading.value, reading.source, isConditionThere)
  return diagnostics.length === 0 ? reading : { ...reading, value: null, diagnostics }
}
