import { expandLevel } from '../interactables/index.ts'
import { makeStage, type Project, projectProblems, readProject, type Stage } from '../play/index.ts'
import { readWithCommon, writeDiagnostics } from './read.ts'
import type { World } from './world.ts'

/** A project with its levels, ready to be played. */
export interface OpenedProject {
  readonly project: Project
  readonly stages: Readonly<Record<string, Stage>>
}

/** The level files of a project, seen from where the command runs, by name; null where the project cannot be read. */
export function levelFiles(text: string, file: string, world: World): Record<string, string> | null {
  const reading = readProject(text, file)
  if (!reading.value) {
    writeDiagnostics(reading.diagnostics, text, world)
    return null
  }
  const folder = file.slice(0, Math.max(file.lastIndexOf('/'), file.lastIndexOf('\\')) + 1)
  return Object.fromEntries(Object.entries(reading.value.levels).map(([name, level]) => [name, folder + level.file]))
}

/** Reads a project and all its levels. Why it cannot be used is written to standard error; null then. */
export async function openProject(text: string, file: string, world: World): Promise<OpenedProject | null> {
  const reading = readProject(text, file)
  const files = levelFiles(text, file, world)
  if (!reading.value || !files) return null
  const stages: Record<string, Stage> = {}
  const texts = new Map([[file, text]])
  for (const [name, levelFile] of Object.entries(files)) {
    const levelText = await world.readText(levelFile)
    texts.set(levelFile, levelText)
    const level = await readWithCommon(levelText, levelFile, world)
    if (level.value) stages[name] = makeStage(expandLevel(level.value, level.source))
    else writeDiagnostics(level.diagnostics, levelText, world, levelFile)
  }
  if (Object.keys(stages).length < Object.keys(files).length) return null
  const levels = Object.fromEntries(Object.entries(stages).map(([name, stage]) => [name, stage.expanded]))
  const problems = projectProblems(reading, levels)
  for (const [of, about] of texts) {
    const own = problems.filter(({ place }) => place.file === of)
    if (own.length > 0) writeDiagnostics(own, about, world)
  }
  return problems.length > 0 ? null : { project: reading.value, stages }
}
